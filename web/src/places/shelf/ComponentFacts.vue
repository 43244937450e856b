<script setup lang="ts">
import { useFileDialog } from '@vueuse/core'
import { ask, clientId, POST, type Schemas } from '../../api/client'
import { useCopy } from '../../use/copy'
import { useWorkspace } from '../../use/workspace'
import ProposedFacts from './ProposedFacts.vue'

/** What stands below a component's example: its slots, what it needs and whether that
 * is met, its versions, rules and uses. */
const props = defineProps<{ data: Schemas['ApiComponentOut'] }>()
const emit = defineEmits<{ changed: [] }>()
const ws = useWorkspace()
const toClipboard = useCopy()
const files = useFileDialog({ accept: '.json', multiple: false, reset: true })
files.onChange(async list => {
  if (!list?.[0]) return
  try {
    const text = await list[0].text()
    ws.note(
      await ask(
        POST('/api/packages', {
          body: { app: ws.data?.apps[0]?.id ?? '', text, client: clientId },
        }),
      ),
    )
    emit('changed')
  } catch (e) {
    ws.say((e as Error).message)
  }
})
const c = () => props.data.component
const states: Record<string, string> = {
  met: 'is there',
  missing: 'is missing',
  unknown: 'not known',
}
const copy = (text: string) => toClipboard(text, 'The command')
const accepts = (s: Schemas['KitSlot']) =>
  [
    s.text ? 'text' : '',
    s.closed ? '' : s.accepts?.map(a => a.replace('role:', 'any ')).join(', ') || 'any element',
  ]
    .filter(Boolean)
    .join(' and ')
</script>

<template>
  <ProposedFacts :data="data" @changed="emit('changed')" />
  <div class="grid gap-6 lg:grid-cols-2">
    <section aria-label="Slots, events, parts and uses">
      <h2 class="mb-1 text-lg">Slots</h2>
      <ul v-if="c().slots.length" class="sheet">
        <li v-for="s in c().slots" :key="s.name" class="item">
          <b>{{ s.name || 'main' }}</b> {{ s.summary }}
          <span class="text-ink2">{{ accepts(s) }}{{ s.max ? `, ${s.max} at most` : '' }}</span>
        </li>
      </ul>
      <p v-else class="text-ink2">None.</p>
      <template v-if="c().events?.length"
        ><h2 class="mt-4 mb-1 text-lg">Events</h2>
        <ul class="sheet">
          <li v-for="e in c().events" :key="e.name" class="item">
            <code>{{ e.name }}</code> {{ e.summary }}
          </li>
        </ul></template
      >
      <template v-if="c().parts?.length"
        ><h2 class="mt-4 mb-1 text-lg">
          Parts
          <span class="text-base font-normal text-ink2"
            >styled from outside with <code>::part()</code></span
          >
        </h2>
        <ul class="sheet">
          <li v-for="e in c().parts" :key="e.name" class="item">
            <code>{{ e.name }}</code> {{ e.summary }}
          </li>
        </ul></template
      >
      <template v-if="c().made.length"
        ><h2 class="mt-4 mb-1 text-lg">Made of</h2>
        <p>
          <template v-for="(m, i) in c().made" :key="m"
            >{{ i ? ', ' : ''
            }}<RouterLink class="underline" :to="`/shelf/${m}`">{{ m }}</RouterLink></template
          >
        </p></template
      >
      <h2 class="mt-4 mb-1 text-lg">Where used</h2>
      <ul class="sheet max-h-80 overflow-auto">
        <li v-for="u in data.uses" :key="u.doc + u.element">
          <RouterLink
            class="flex gap-3 px-3 py-1 hover:bg-wash"
            :to="`/bench/${u.doc.replace(':', '/')}#${u.element}`"
            ><span class="w-40 shrink-0 truncate">{{ u.title }}</span
            ><span class="truncate text-ink2">{{ u.words }}</span></RouterLink
          >
        </li>
        <li v-if="!data.uses.length" class="px-3 py-1 text-ink2">No screen uses it.</li>
      </ul>
      <template v-if="data.rules.length"
        ><h2 class="mt-4 mb-1 text-lg">Rules about it</h2>
        <ul class="sheet">
          <li v-for="r in data.rules" :key="r.id" class="item">
            <RouterLink class="underline" :to="`/census/rules#${r.id}`">{{ r.title }}</RouterLink>{{
              ' '
            }}
            <span class="text-ink2">{{ r.purpose }}</span>
          </li>
        </ul></template
      >
      <template v-if="data.house.length"
        ><h2 class="mt-4 mb-1 text-lg">House rules</h2>
        <ul class="sheet">
          <li v-for="h in data.house" :key="h.id" class="item">
            {{ h.words }}: {{ h.prop }} is <b>{{ h.value }}</b>. {{ h.reason }}
          </li>
        </ul></template
      >
    </section>
    <section aria-label="Needs">
      <h2 class="mb-1 text-lg">Needs</h2>
      <dl class="sheet grid grid-cols-[110px_1fr] gap-x-3 gap-y-1 px-3 py-2">
        <dt class="text-ink2">Package</dt>
        <dd>
          <code>{{ data.needs.package }}</code>
        </dd>
        <dt class="text-ink2">Code</dt>
        <dd>
          <code>{{ data.needs.import }}</code>
        </dd>
        <template v-if="data.needs.styles"
          ><dt class="text-ink2">Styles, fonts</dt>
          <dd>
            <code>{{ data.needs.styles }}</code>
          </dd></template
        >
        <dt class="text-ink2">Theme</dt>
        <dd>
          <code>{{ data.needs.theme }}</code> on the root: {{ ws.data?.themes.join(', ') }}
        </dd>
        <template v-if="data.needs.parents.length"
          ><dt class="text-ink2">Stands in</dt>
          <dd>
            <template v-for="(p, i) in data.needs.parents" :key="p"
              >{{ i ? ', ' : ''
              }}<RouterLink class="underline" :to="`/shelf/${p}`">{{ p }}</RouterLink></template
            >
          </dd></template
        >
        <template v-if="data.needs.labels"
          ><dt class="text-ink2">Named by</dt>
          <dd>
            <RouterLink class="underline" :to="`/shelf/${data.needs.labels}`">{{
              data.needs.labels
            }}</RouterLink>, or its own label
          </dd></template
        >
        <template v-if="c().tokens?.length"
          ><dt class="text-ink2">Tokens</dt>
          <dd>
            <details>
              <summary>{{ c().tokens!.length }}</summary>
              <code class="text-xs">{{ c().tokens!.join(' ') }}</code>
            </details>
          </dd></template
        >
      </dl>
      <h3 class="mt-3 mb-1">Whether they are met</h3>
      <ul class="sheet">
        <li v-for="n in data.checked" :key="n.what + n.name + n.for" class="item">
          <b :class="{ 'text-rust': n.state === 'missing', 'text-moss': n.state === 'met' }"
            >{{ n.what }} {{ n.name }} {{ states[n.state] }}</b
          ><span class="text-ink2">: {{ n.words }}.</span>
          <span v-if="n.remedy" class="ml-1"
            >{{ n.remedy[0]!.toUpperCase() + n.remedy.slice(1)
            }}<RouterLink v-if="n.path" class="ml-1 underline" :to="n.path">there</RouterLink
            >.</span
          >
          <span v-if="n.command" class="mt-0.5 flex items-center gap-2"
            ><code>{{ n.command }}</code
            ><button class="btn h-6" @click="copy(n.command)">Copy</button></span
          >
          <code
            v-if="n.line"
            class="mt-0.5 block text-moss"
            :title="`What the package.json of ${n.for} has then`"
            >+ {{ n.line }}</code
          >
        </li>
      </ul>
      <p class="mt-1 text-xs text-ink2">
        A delivery brings all of it along.
        <button v-if="ws.canBuild" class="underline" @click="files.open()">
          Bring in the application’s package.json
        </button>
      </p>
      <h2 class="mt-4 mb-1 text-lg">Versions</h2>
      <ul class="sheet">
        <li v-for="v in data.versions" :key="v.version" class="item">
          <b>{{ v.version }}</b>{{ ' ' }}
          <span class="text-ink2"
            >{{ v.inUse ? 'in use here' : 'newer'
            }}{{ !v.inUse && !v.words.length ? '; nothing of this changes' : '' }}</span
          >
          <ul v-if="v.words.length" class="list-disc pl-5">
            <li v-for="(w, i) in v.words" :key="w">
              {{ w
              }}<span v-if="v.changes[i]!.breaks" class="text-rust"> · breaks what uses it</span>
            </li>
          </ul>
        </li>
      </ul>
      <template v-if="data.findings.length"
        ><h2 class="mt-4 mb-1 text-lg">
          Findings <span class="text-base font-normal text-ink2">{{ data.findings.length }}</span>
        </h2>
        <ul class="sheet max-h-60 overflow-auto">
          <li v-for="f in data.findings" :key="f.key" class="item">
            <RouterLink class="underline" :to="`/bench/${f.doc.replace(':', '/')}#${f.element}`">{{
              f.title
            }}</RouterLink>
            {{ f.message }}
          </li>
        </ul></template
      >
    </section>
  </div>
</template>

<style scoped>
.item {
  border-bottom: 1px solid var(--u-line);
  padding: 6px 12px;
}
.item:last-child {
  border-bottom: 0;
}
</style>
