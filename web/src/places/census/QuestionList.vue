<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { ask, POST, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import LiveTile from '../../ui/LiveTile.vue'
import MixBar from '../../ui/MixBar.vue'
import TileStage from '../../ui/TileStage.vue'
import { clientId } from '../../api/client'
import { counted } from '../../use/counted'
import { useWorkspace } from '../../use/workspace'
import AnswerDialog from './AnswerDialog.vue'
import AskDialog from './AskDialog.vue'
import FixNow from './FixNow.vue'
import LineDialog from './LineDialog.vue'
import { useCensus, useFragments } from './census'
import { reasonsFor, voices, waiting } from './voices'

type Question = Schemas['ApiQuestionView']
type Side = Schemas['NormSide']
const ws = useWorkspace()
const route = useRoute()
const { census, load } = useCensus()
const questions = computed(() => census.value?.questions ?? [])
const { page, load: redraw } = useFragments(() =>
  questions.value.flatMap(q => q.examples.slice(0, 2)),
)
const titles = computed(() => new Map(ws.data?.docs.map(d => [`${d.kind}:${d.id}`, d.title])))
const lining = ref<{ question: string; value: string }>()
async function lined() {
  lining.value = undefined
  await Promise.all([load(), ws.load()])
  await redraw()
}
// What is put to people, and what they say to it.
const asking = ref<Question>()
const answering = ref<{ q: Question; side: Side; why?: string }>()
const me = computed(() => ws.data?.me.name ?? '')
const name = (user: string) => ws.data?.owners[user] ?? user
async function heard() {
  const id = (asking.value ?? answering.value?.q)?.id
  asking.value = answering.value = undefined
  await load()
  await stay(id)
}
/** What was pressed is gone: one goes on at the question that it was about. */
async function stay(id = '') {
  await nextTick()
  const at = document.getElementById(id) ?? document.getElementById('questions')
  at?.focus({ preventScroll: true })
}
async function drop(q: { id: string }) {
  ws.note(
    await ask(
      POST('/api/questions/answer', {
        body: { question: q.id, value: '', drop: true, client: clientId },
      }),
    ),
  )
  await Promise.all([load(), ws.load()])
  await stay(q.id)
}
async function close(key: string) {
  ws.note(
    await ask(
      POST('/api/questions/ask', { body: { question: key, people: [], client: clientId } }),
    ),
  )
  await Promise.all([load(), ws.load()])
  await stay()
}
// The address says which question somebody comes for.
watch(
  () => [route.hash, questions.value.length] as const,
  async ([hash, n]) => {
    if (!hash || !n) return
    await nextTick()
    document.getElementById(decodeURIComponent(hash.slice(1)))?.scrollIntoView()
  },
  { immediate: true },
)
const settling = ref<{ q: Question; value: string }>()
const reason = ref('')
const fix = ref(true)
/** What is set otherwise than what is settled on. */
const others = computed(() => {
  const sides = settling.value?.q.sides.filter(s => s.value !== settling.value!.value) ?? []
  return { uses: sides.reduce((n, s) => n + s.uses, 0), docs: sides.flatMap(s => s.docs) }
})
const error = ref('')
const day = (date: string) =>
  new Date(date).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })
const capital = (s: string) => s.charAt(0).toUpperCase() + s.slice(1)
async function settle() {
  const s = settling.value!
  try {
    const out = await ask(
      POST('/api/census/settle', {
        body: {
          spot: s.q.spot,
          where: s.q.where,
          words: s.q.words,
          prop: s.q.prop,
          value: s.value,
          reason: reason.value,
          fix: fix.value,
          client: clientId,
        },
      }),
    )
    ws.note(out)
    ws.say(`Settled: ${s.q.prop} is ${s.value}.`)
    settling.value = undefined
    await Promise.all([load(), ws.load()])
    await redraw()
  } catch (e) {
    error.value = (e as Error).message
  }
}
function begin(q: Question, value: string) {
  settling.value = { q, value }
  reason.value = reasonsFor(q, value, name)
  error.value = ''
  fix.value = true
}
async function undo() {
  await ws.undo()
  await Promise.all([load(), ws.load()])
}
</script>

<template>
  <TileStage>
    <div id="questions" tabindex="-1" class="mx-auto max-w-6xl p-4 outline-none">
      <div class="mb-3 flex items-baseline gap-3">
        <p class="text-ink2">
          Spots where the screens are of two minds. Nobody is wrong yet; settle one, and it becomes
          a house rule.
        </p>
        <button v-if="ws.done.length" class="btn ml-auto" @click="undo">
          Undo {{ ws.done.at(-1)?.title.toLowerCase() }}
        </button>
      </div>
      <article
        v-for="q in questions"
        :id="q.id"
        :key="q.id"
        tabindex="-1"
        class="mb-5 border border-line"
      >
        <header class="flex flex-wrap items-baseline gap-3 border-b border-line px-3 py-2">
          <h2 class="text-lg">{{ capital(q.what) }}</h2>
          <span v-if="q.words">{{ q.words }}</span><MixBar :parts="q.sides" :width="120" /><span
            class="text-ink2"
            >{{ q.sides.map(s => s.screens).join(' : ') }} screens</span
          ><span
            v-if="q.moving"
            class="text-slate"
            title="The newer screens give this answer, the older ones the other"
            >moving to {{ q.moving.words }}: {{ q.moving.done }} of {{ q.moving.of }}, since
            {{ day(q.moving.since) }}</span
          ><RouterLink
            v-if="q.rule"
            class="underline"
            :to="`/census/line-up?component=${q.component}&prop=${q.prop}`"
            >Line-up</RouterLink
          ><button v-if="ws.canBuild" class="btn ml-auto" @click="asking = q">
            {{ q.asked ? 'Asked …' : 'Ask people …' }}
          </button>
        </header>
        <p v-if="q.asked" class="px-3 pt-2">
          Asked by {{ name(q.asked.by) }} on {{ day(q.asked.when)
          }}<template v-if="q.asked.due">, answers by {{ day(q.asked.due) }}</template
          >: {{ q.asked.people.map(name).join(', ') }}.
          <span class="text-ink2"
            ><template v-if="waiting(q).length"
              >Not answered yet: {{ waiting(q).map(name).join(', ') }}.</template
            ><template v-else>All have answered.</template>
            {{ q.asked.note ? `“${q.asked.note}”` : '' }}</span
          >
        </p>
        <p v-if="voices(q).others.length" class="px-3 pt-2 text-ink2">
          Also said:
          {{
            voices(q)
              .others.map(a => `${a.words} (${name(a.by)})`)
              .join('; ')
          }}.
        </p>
        <p v-if="q.with?.length" class="px-3 pt-2 text-ink2">
          Decided together with it: {{ q.with.join('; ') }}.
        </p>
        <p v-if="!q.rule" class="px-3 pt-2 text-ink2">
          No house rule can hold this; one side can be brought into line with the other.
        </p>
        <div class="grid md:grid-cols-2">
          <section
            v-for="(s, i) in q.sides.slice(0, 2)"
            :key="s.value"
            class="p-3 not-first:border-l not-first:border-line"
            :aria-label="`${q.what}: ${s.words}`"
          >
            <div class="mb-2 flex items-center gap-2">
              <b>{{ s.words }}</b><span class="text-ink2"
                >{{ counted(s.uses, 'use') }} on {{ counted(s.screens, 'screen') }}</span
              ><button
                v-if="
                  !voices(q)
                    .by.get(s.value)
                    ?.some(a => a.by === me)
                "
                class="btn btn-bare ml-auto"
                @click="answering = { q, side: s }"
              >
                I say this</button
              ><span v-else class="ml-auto"></span
              ><button
                v-if="ws.canBuild && !q.rule"
                class="btn"
                @click="lining = { question: q.id, value: s.value }"
              >
                Make all so</button
              ><button v-if="ws.canKeep && q.rule" class="btn" @click="begin(q, s.value)">
                Settle on {{ s.value || 'none' }}
              </button>
            </div>
            <ul v-if="voices(q).by.get(s.value)?.length" class="mb-2">
              <li v-for="a in voices(q).by.get(s.value)" :key="a.id">
                <b>{{ name(a.by) }}</b><template v-if="a.why">: {{ a.why }}</template>
                <button
                  v-if="a.by === me"
                  class="ml-2 underline"
                  @click="answering = { q, side: s, why: a.why }"
                >
                  Change</button
                ><button v-if="a.by === me" class="ml-2 underline" @click="drop(q)">
                  Take back
                </button>
              </li>
            </ul>
            <RouterLink
              :to="`/bench/${q.examples[i]?.doc.replace(':', '/')}#${q.examples[i]?.element}`"
              class="block border border-line hover:border-ink"
              :aria-label="`Example on ${titles.get(q.examples[i]?.doc ?? '')}`"
              ><LiveTile
                :html="page(q.examples[i]!)?.html"
                :props="page(q.examples[i]!)?.props"
                :width="620"
                :height="170"
                fit
            /></RouterLink>
            <p class="mt-1 text-xs text-ink2">
              {{ (s.docs ?? []).map(d => titles.get(d) ?? d).join(', ') }}
            </p>
          </section>
        </div>
      </article>
      <p v-if="!questions.length" class="text-ink2">
        No open questions. Where the screens disagree, it stands here.
      </p>
      <details v-if="census?.asks.length" class="border-t border-line py-3">
        <summary>Asked, and open no longer ({{ census.asks.length }})</summary>
        <ul class="mt-2">
          <li v-for="a in census.asks" :key="a.id" class="flex items-baseline gap-3 py-1">
            <span class="min-w-0"
              >{{ capital(a.what)
              }}<span class="text-ink2"
                >, asked by {{ name(a.by) }} on {{ day(a.when)
                }}<template v-for="s in a.answers" :key="s.id"
                  >; {{ name(s.by) }}: {{ s.words }}</template
                ></span
              ></span
            ><button v-if="ws.canBuild" class="btn ml-auto" @click="close(a.key)">Take away</button>
          </li>
        </ul>
      </details>
    </div>
  </TileStage>
  <AskDialog v-if="asking" :question="asking" @close="asking = undefined" @done="heard" />
  <AnswerDialog
    v-if="answering"
    :question="answering.q"
    :side="answering.side"
    :why="answering.why"
    @close="answering = undefined"
    @done="heard"
  />
  <LineDialog
    v-if="lining"
    :question="lining.question"
    :value="lining.value"
    @close="lining = undefined"
    @done="lined"
  />
  <AppDialog
    v-if="settling"
    :title="`${capital(settling.q.what)}: ${settling.value}`"
    @close="settling = undefined"
  >
    <form class="grid gap-3" @submit.prevent="settle">
      <label
        ><span class="label mb-1 block">Why, so that others can follow it</span
        ><textarea v-model="reason" class="input h-20 w-full py-1" required autofocus></textarea>
      </label>
      <FixNow
        v-model="fix"
        :words="`Bring the other ${counted(others.uses, 'use')} into line now`"
        :docs="others.docs"
      />
      <p v-if="settling.q.answers.length" class="text-ink2">
        {{ settling.q.answers.map(a => `${name(a.by)} says ${a.words}`).join(', ') }}. Settled, it
        is asked no longer.
      </p>
      <p v-if="error" role="alert" class="text-rust">{{ error }}</p>
      <div class="flex justify-end gap-2">
        <button type="button" class="btn btn-bare" @click="settling = undefined">Cancel</button
        ><button class="btn btn-main" :disabled="!reason.trim()">Settle</button>
      </div>
    </form>
  </AppDialog>
</template>
