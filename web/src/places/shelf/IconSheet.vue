<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { ask, clientId, GET, POST, type Page, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import { useCopy } from '../../use/copy'
import { useWorkspace } from '../../use/workspace'
import IconDialog from './IconDialog.vue'

/** The kit's icons and the team's own, found by what they mean, with where they stand. */
const props = defineProps<{
  kit: Schemas['ApiKitOut']
  icons: Schemas['KitIcon'][]
  why: ReadonlyMap<string, string>
}>()
const ws = useWorkspace()
const toClipboard = useCopy()
const tag = computed(() => props.kit.code.icon ?? '')
const prop = computed(
  () =>
    props.kit.components.find(c => c.tag === tag.value)?.props.find(p => p.icon)?.name ?? 'name',
)
const pages = shallowRef<Record<string, Page>>({})
const chosen = ref('')
const adding = ref(false)
const code = shallowRef<Record<string, string>>({})
const sizes = shallowRef<Page[]>([])
const places = shallowRef<Schemas['ApiIconPlace'][]>([])
const icon = computed(() => props.kit.icons.find(i => i.name === chosen.value))

watch(
  () => props.kit.icons.map(i => i.name).join(),
  async () => {
    const out = await ask(
      POST('/api/render', {
        body: {
          trees: props.kit.icons.map(i => ({
            id: 'x',
            type: tag.value,
            props: { [prop.value]: i.name },
          })),
        },
      }),
    )
    pages.value = Object.fromEntries(out.pages.map((p, i) => [props.kit.icons[i]!.name, p]))
  },
  { immediate: true },
)
watch(chosen, async name => {
  if (!name) return
  const [written, used] = await Promise.all([
    ask(
      POST('/api/code', {
        body: { tree: { id: 'x', type: tag.value, props: { [prop.value]: name } } },
      }),
    ),
    ask(GET('/api/icons/{name}', { params: { path: { name } } })),
  ])
  code.value = written.code
  // As large as the kit shows icons.
  const scale =
    props.kit.components.find(c => c.tag === tag.value)?.props.find(p => p.name === 'size')
      ?.values ?? []
  const drawn = await ask(
    POST('/api/render', {
      body: {
        trees: (scale.length ? scale : ['']).map(size => ({
          id: 'x',
          type: tag.value,
          props: { [prop.value]: name, ...(size ? { size } : {}) },
        })),
      },
    }),
  )
  sizes.value = drawn.pages
  places.value = used.places
})
const copy = (text: string) => toClipboard(text, `The icon ${chosen.value}`)
async function remove(name: string) {
  try {
    ws.note(
      await ask(
        POST('/api/changes', {
          body: {
            change: {
              title: `Take away the icon ${name}`,
              steps: [{ do: 'unicon', icon: { name } }],
            },
            client: clientId,
          },
        }),
      ),
    )
    chosen.value = ''
    await ws.load()
  } catch (e) {
    ws.say((e as Error).message)
  }
}
</script>

<template>
  <section class="p-4" aria-label="Icons">
    <div class="mb-2 flex items-baseline gap-3 border-b border-line pb-1">
      <h2 class="text-lg">
        Icons <span class="text-base font-normal text-ink2">{{ icons.length }}</span>
      </h2>
      <button
        v-if="ws.canBuild && kit.code.addIcons"
        class="btn ml-auto h-6"
        @click="adding = true"
      >
        Add one of your own
      </button>
      <p v-else-if="!kit.code.addIcons" class="ml-auto text-ink2">
        {{ kit.title }} takes no icons of your own: its notes name no function for it.
      </p>
    </div>
    <TileStage>
      <ul class="grid grid-cols-[repeat(auto-fill,minmax(170px,1fr))] gap-1">
        <li v-for="i in icons" :key="i.name">
          <button
            class="flex w-full items-center gap-2 border border-transparent p-1 text-left hover:border-line"
            :aria-label="`${i.name}: ${(i.meanings ?? []).join(', ')}`"
            @click="chosen = i.name"
          >
            <span class="grid size-8 shrink-0 place-items-center"
              ><LiveTile
                class="w-5"
                :html="pages[i.name]?.html"
                :props="pages[i.name]?.props"
                :width="20"
                :height="20" /></span
            ><span class="min-w-0"
              ><span class="block truncate"
                >{{ i.name }}<span v-if="i.own" class="ml-1 text-xs text-moss">own</span></span
              ><span class="block truncate text-xs text-ink2">{{
                why.get('icon' + i.name) || (i.meanings ?? []).join(', ')
              }}</span></span
            >
          </button>
        </li>
      </ul>
    </TileStage>
    <AppDialog v-if="chosen && icon" :title="chosen" @close="chosen = ''">
      <TileStage
        ><div class="flex items-end gap-4 border border-line p-3">
          <LiveTile
            v-for="(p, i) in sizes"
            :key="i"
            class="w-8"
            :html="p.html"
            :props="p.props"
            :width="32"
            :height="32"
          />
          <p class="text-ink2">{{ (icon.meanings ?? []).join(', ') }}</p>
        </div></TileStage
      >
      <div v-for="(text, target) in code" :key="target" class="mt-3">
        <div class="mb-1 flex items-center gap-2">
          <h3>{{ target }}</h3>
          <button class="btn ml-auto h-6" @click="copy(text)">Copy</button>
        </div>
        <pre class="sheet overflow-auto p-2"><code>{{ text }}</code></pre>
      </div>
      <h3 class="mt-3 mb-1">
        Where it stands <span class="font-normal text-ink2">{{ places.length || 'nowhere' }}</span>
      </h3>
      <ul class="max-h-40 overflow-auto">
        <li v-for="p in places" :key="p.doc + p.element + p.prop">
          <RouterLink
            class="flex gap-2 py-0.5 hover:bg-wash"
            :to="`/bench/${p.doc.replace(':', '/')}#${p.element}`"
            ><span class="w-36 shrink-0 truncate">{{ p.title }}</span
            ><span class="truncate text-ink2">{{ p.words }}</span></RouterLink
          >
        </li>
      </ul>
      <div class="mt-3 flex gap-2">
        <RouterLink
          v-if="places.length && ws.canBuild"
          class="btn"
          :to="`/census/count?where=${encodeURIComponent(`[${places[0]!.prop}='${chosen}']`)}`"
          >Replace it everywhere</RouterLink
        ><button
          v-if="icon.own && ws.canBuild"
          class="btn"
          :disabled="places.length > 0"
          :title="places.length ? 'It stands on screens; replace it there first' : ''"
          @click="remove(chosen)"
        >
          Take it away
        </button>
      </div>
    </AppDialog>
    <IconDialog v-if="adding" @close="adding = false" />
  </section>
</template>
