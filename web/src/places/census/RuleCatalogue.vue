<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ask, clientId, GET, POST, type Change, type Schemas } from '../../api/client'
import { download } from '../../use/download'
import { useWorkspace } from '../../use/workspace'
import { useCensus } from './census'
import RuleDialog from './RuleDialog.vue'
import RuleEntry from './RuleEntry.vue'
import RuleFileDialog from './RuleFileDialog.vue'

const ws = useWorkspace()
const { census, load } = useCensus()
const rules = shallowRef<Schemas['ApiRuleView'][]>([])
const own = shallowRef<Schemas['ApiOwnRuleView'][]>([])
const signing = shallowRef<Schemas['ApiRuleView']>()
const writing = ref<Schemas['ApiOwnRuleView'] | 'new'>()
const filing = ref(false)
const route = useRoute()
const router = useRouter()
// Two elements that were chosen elsewhere, for a rule by example.
const like = computed(() => String(route.query.like ?? ''))
const unlike = computed(() => String(route.query.unlike ?? ''))
async function read() {
  const out = await ask(GET('/api/rules'))
  rules.value = out.rules
  own.value = out.own
  signing.value = out.signing
}
function shut() {
  writing.value = undefined
  if (like.value) void router.replace({ query: {} })
}
async function made() {
  shut()
  await changed()
}
async function drop(r: Schemas['ApiOwnRuleView']) {
  try {
    await ws.take({
      title: `Take away the rule “${r.rule.title}”`,
      steps: [{ do: 'unrule', rule: r.rule } as Change['steps'][number]],
    })
    ws.say(`“${r.rule.title}” is taken away; undo brings it back.`)
    await changed()
  } catch (e) {
    ws.say((e as Error).message)
  }
}
async function toFile() {
  const file = await ask(GET('/api/rules/file'))
  download('rules.json', JSON.stringify(file, null, 2) + '\n', 'application/json')
  ws.say('rules.json downloaded.')
}
async function changed() {
  await Promise.all([read(), load(), ws.load()])
}
onMounted(read)
watch(() => ws.data?.seq, read)
async function lift(id: string) {
  try {
    ws.note(await ask(POST('/api/census/unsettle', { body: { id, client: clientId } })))
    await Promise.all([load(), ws.load()])
  } catch (e) {
    ws.say((e as Error).message)
  }
}
</script>

<template>
  <div class="mx-auto grid max-w-5xl gap-6 p-4">
    <section aria-label="House rules">
      <h2 class="mb-1 text-lg">House rules</h2>
      <table v-if="census?.house.length" class="sheet w-full border-collapse">
        <thead>
          <tr>
            <th class="th">Spot</th>
            <th class="th">Settled</th>
            <th class="th">Why</th>
            <th class="th">Who, when</th>
            <th class="th"></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="h in census.house" :id="h.id" :key="h.id">
            <td class="td">{{ h.words }}</td>
            <td class="td">
              {{ h.prop }} is <b>{{ h.value }}</b>
            </td>
            <td class="td">{{ h.reason }}</td>
            <td class="td whitespace-nowrap">{{ ws.data?.owners[h.by] ?? h.by }}, {{ h.when }}</td>
            <td class="td text-right">
              <button v-if="ws.canKeep" class="underline" @click="lift(h.id)">Lift</button>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else class="text-ink2">None yet. Settle an open question to make one.</p>
    </section>
    <section aria-label="Rules of your own">
      <div class="mb-1 flex items-center gap-2">
        <h2 class="mr-auto text-lg">Rules of your own</h2>
        <button class="btn" @click="toFile">To a file</button>
        <template v-if="ws.canKeep"
          ><button class="btn" @click="filing = true">From a file …</button
          ><button class="btn btn-main" @click="writing = 'new'">New rule</button></template
        >
      </div>
      <table v-if="own.length" class="sheet w-full border-collapse">
        <thead>
          <tr>
            <th class="th">Rule</th>
            <th class="th">Of what, what must hold</th>
            <th class="th">Weighs as</th>
            <th class="th text-right">Found</th>
            <th class="th">Who, when</th>
            <th class="th"></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in own" :id="r.rule.id" :key="r.rule.id">
            <td class="td">
              <b>{{ r.rule.title }}</b><span v-if="r.rule.why" class="block text-ink2">{{
                r.rule.why
              }}</span
              ><span v-if="!r.goodKept || !r.badFound" class="block text-rust">{{
                r.goodKept ? 'its bad example is not found' : 'its good example does not keep it'
              }}</span>
            </td>
            <td class="td font-mono text-xs">
              {{ r.rule.of && r.rule.of !== 'element' ? `every ${r.rule.of}` : r.rule.where
              }}<br />{{ r.rule.must }}
            </td>
            <td class="td">{{ r.rule.severity }}</td>
            <td class="td text-right">
              <RouterLink
                v-if="r.findings"
                class="underline"
                :to="`/census/work?by=rule&words=${encodeURIComponent(r.rule.id)}`"
                >{{ r.findings }}</RouterLink><template v-else>0</template>
            </td>
            <td class="td whitespace-nowrap">
              {{ ws.data?.owners[r.rule.by ?? ''] ?? r.rule.by }}, {{ r.rule.when }}
            </td>
            <td class="td text-right whitespace-nowrap">
              <template v-if="ws.canKeep"
                ><button class="mr-3 underline" @click="writing = r">Change</button
                ><button class="underline" @click="drop(r)">Take away</button></template
              >
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else class="text-ink2">
        None yet. Write one, or choose two elements in the
        <RouterLink class="underline" to="/census/line-up">line-up</RouterLink>: like this, not like
        that.
      </p>
    </section>
    <RuleDialog
      v-if="writing || (like && unlike)"
      :rule="writing && writing !== 'new' ? writing.rule : undefined"
      :like="writing ? undefined : like"
      :unlike="writing ? undefined : unlike"
      :taken="[...own.map(r => r.rule.id), ...rules.map(r => r.id)]"
      @close="shut"
      @done="made"
    />
    <RuleFileDialog
      v-if="filing"
      @close="filing = false"
      @done="
        () => {
          filing = false
          void changed()
        }
      "
    />
    <section v-if="signing" id="sign-off" aria-label="Sign-off">
      <h2 class="mb-1 text-lg">Sign-off</h2>
      <div class="sheet px-3 py-2"><RuleEntry :rule="signing" plain @changed="changed" /></div>
    </section>
    <section aria-label="Rules">
      <h2 class="mb-1 text-lg">
        Rules <span class="text-base font-normal text-ink2">{{ rules.length }}</span>
      </h2>
      <ul class="sheet">
        <li
          v-for="r in rules"
          :id="r.id"
          :key="r.id"
          class="border-b border-line px-3 py-2 last:border-b-0"
        >
          <RuleEntry :rule="r" @changed="changed" />
        </li>
      </ul>
    </section>
  </div>
</template>
