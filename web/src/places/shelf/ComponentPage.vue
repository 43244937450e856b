<script setup lang="ts">
import { onKeyStroke } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import { ask, GET, POST, type Page, type Schemas } from '../../api/client'
import CodeText from '../../ui/CodeText.vue'
import LiveTile from '../../ui/LiveTile.vue'
import MixBar from '../../ui/MixBar.vue'
import TileStage from '../../ui/TileStage.vue'
import { languageOf } from '../../ui/tones'
import { typing } from '../../use/keys'
import { useCopy } from '../../use/copy'
import ComponentFacts from './ComponentFacts.vue'
import ExampleChoice from './ExampleChoice.vue'
import UsableNote from './UsableNote.vue'
import VariantSheet from './VariantSheet.vue'
import { exampleTree, padded, withoutDefaults } from './example'

const toClipboard = useCopy()
const route = useRoute()
const data = shallowRef<Schemas['ApiComponentOut']>()
const error = ref('')
const chosen = ref<Record<string, string>>({})
const example = shallowRef<Page>()
const code = shallowRef<Record<string, string>>({})
const target = ref('vue')
const icons = shallowRef<string[]>([])
void ask(GET('/api/kit')).then(
  k => {
    icons.value = k.icons.map(i => i.name)
  },
  () => {},
)
const component = computed(() => data.value?.component)

async function load() {
  error.value = ''
  try {
    data.value = await ask(
      GET('/api/kit/{tag}', { params: { path: { tag: String(route.params.tag) } } }),
    )
  } catch (e) {
    error.value = (e as Error).message
  }
}
watch(
  () => route.params.tag,
  () => {
    if (route.name === 'component') void load()
  },
  { immediate: true },
)

let latest = 0
watch([component, chosen], async () => {
  const c = component.value
  if (!c) return
  const mine = ++latest
  const tree = withoutDefaults(exampleTree(c, chosen.value), c)
  const [page, written] = await Promise.all([
    ask(POST('/api/render', { body: { trees: [padded(tree, c)] } })),
    ask(POST('/api/code', { body: { tree } })),
  ])
  if (mine !== latest) return
  example.value = page.pages[0]
  code.value = written.code
})
const whole = computed(() =>
  [data.value?.needs.import, code.value[target.value]].filter(Boolean).join('\n\n'),
)
const copy = () => toClipboard(whole.value, `The code for ${target.value}`)
onKeyStroke('c', e => {
  if (
    !typing(e) &&
    !e.ctrlKey &&
    !e.metaKey &&
    !e.altKey &&
    !document.querySelector('[role=dialog]')
  ) {
    e.preventDefault()
    void copy()
  }
})
</script>

<template>
  <div class="h-full overflow-auto">
    <div v-if="error" role="alert" class="p-6 text-rust">
      {{ error }}. <RouterLink to="/shelf" class="underline">To the shelf</RouterLink>
    </div>
    <TileStage v-if="component && data">
      <div class="max-w-[1400px] px-4 pb-10">
        <header class="flex flex-wrap items-baseline gap-3 py-3">
          <RouterLink to="/shelf" class="text-ink2 underline">Shelf</RouterLink>
          <h1 class="text-xl">{{ component.title }}</h1>
          <code class="text-ink2">{{ component.tag }}</code><span class="text-ink2"
            >{{ component.level === 'composite' ? 'ready-set' : component.level }},
            {{
              component.uses
                ? `${component.uses} ${component.uses === 1 ? 'use' : 'uses'} on ${component.screens} ${component.screens === 1 ? 'screen' : 'screens'}`
                : 'not used'
            }}</span
          >
          <RouterLink
            v-if="component.level === 'piece'"
            class="ml-auto underline"
            :to="`/bench/piece/${component.tag.slice(6)}`"
            >Open on the Bench</RouterLink
          >
          <RouterLink
            class="underline"
            :class="{ 'ml-auto': component.level !== 'piece' }"
            :to="`/census/line-up?component=${component.tag}`"
            >Line-up</RouterLink
          >
        </header>
        <UsableNote :component="component" @changed="load"
          ><p class="max-w-prose">{{ component.summary }}</p></UsableNote
        >

        <VariantSheet
          class="mt-4"
          :component="component"
          :data="data"
          :chosen="chosen"
          @choose="s => (chosen = s)"
        />

        <section class="mt-6 grid gap-4 lg:grid-cols-2" aria-label="Example and code">
          <div>
            <h2 class="mb-1 text-lg">Example</h2>
            <LiveTile
              class="border border-line"
              :html="example?.html"
              :props="example?.props"
              :width="component.level === 'composite' ? 640 : 400"
              :height="180"
              label="The chosen example"
            />
          </div>
          <div>
            <div class="mb-1 flex items-baseline gap-2">
              <h2 class="text-lg">Code</h2>
              <button
                v-for="(_, t) in code"
                :key="t"
                class="px-1"
                :class="target === t ? 'font-semibold text-moss' : 'text-ink2'"
                :aria-pressed="target === t"
                @click="target = String(t)"
              >
                {{ t }}</button><button class="btn ml-auto" @click="copy">
                Copy <kbd class="kbd">c</kbd>
              </button>
            </div>
            <CodeText
              class="sheet max-h-[180px] overflow-auto p-2"
              :code="whole"
              :language="languageOf(target)"
            />
          </div>
        </section>

        <section class="mt-6" aria-label="Props">
          <h2 class="mb-1 text-lg">
            Props
            <span class="text-base font-normal text-ink2"
              >choose, and the example and its code follow</span
            >
          </h2>
          <table class="sheet w-full border-collapse">
            <thead>
              <tr>
                <th class="th">Prop</th>
                <th class="th">In the example</th>
                <th class="th">The screens</th>
                <th class="th">What it does</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="p in component.props" :key="p.name">
                <td class="td font-semibold whitespace-nowrap">
                  {{ p.name }}<span v-if="p.required" class="text-rust" title="required"> *</span>
                </td>
                <td class="td">
                  <ExampleChoice
                    :prop="p"
                    :icons="icons"
                    :value="chosen[p.name] ?? component.example.props?.[p.name] ?? p.default ?? ''"
                    :mix="data.mixes[p.name] ?? []"
                    @choose="v => (chosen = { ...chosen, [p.name]: v })"
                  />
                </td>
                <td class="td whitespace-nowrap">
                  <MixBar v-if="data.mixes[p.name]?.length" :parts="data.mixes[p.name]!" />
                </td>
                <td class="td">
                  {{ p.summary
                  }}<span v-if="p.deprecated" class="text-rust"> {{ p.deprecated }}</span>
                </td>
              </tr>
            </tbody>
          </table>
        </section>
        <ComponentFacts class="mt-6" :data="data" @changed="load" />
      </div>
    </TileStage>
    <p v-else-if="!error" class="p-6 text-ink2" role="status">Opening …</p>
  </div>
</template>
