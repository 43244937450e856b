<script setup lang="ts">
import { useFileDialog } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ask, POST, type Page, type Schemas } from '../../api/client'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import { useWorkspace } from '../../use/workspace'
import ContrastSheet from './ContrastSheet.vue'
import ThemeChecks from './ThemeChecks.vue'
import ThemeMaker from './ThemeMaker.vue'
import { onWall } from './example'
import { draftOf, useTheme } from './useTheme'

/** Themes: those there are, and one being made or changed, seen on the whole kit and on
 * any screen while it is made. */
const props = defineProps<{ kit: Schemas['ApiKitOut'] }>()
const ws = useWorkspace()
const route = useRoute()
const router = useRouter()
const t = useTheme()
const pages = shallowRef<Record<string, Page>>({})
const shown = ref('wall')
const screen = shallowRef<Page>()
const height = ref(700)
const fonts = useFileDialog({ accept: '.woff2', multiple: false, reset: true })
fonts.onChange(list => {
  if (list?.[0]) void t.addFont(list[0])
})

onMounted(async () => {
  await t.load()
  choose(String(route.query.theme ?? props.kit.themes[0]))
  const out = await ask(
    POST('/api/render', {
      body: { trees: props.kit.components.map(onWall) },
    }),
  )
  pages.value = Object.fromEntries(out.pages.map((p, i) => [props.kit.components[i]!.tag, p]))
})
function choose(id: string) {
  const theme = t.data.value?.themes.find(x => x.id === id)
  t.open(theme ? draftOf(theme) : draftOf(undefined, props.kit.themes[0]))
  void router.replace({ query: { ...route.query, theme: theme?.id } })
}
function make() {
  t.open(draftOf(undefined, t.draft.from || props.kit.themes[0]))
  void router.replace({ query: { ...route.query, theme: undefined } })
}
watch(shown, async name => {
  screen.value = undefined
  if (name === 'wall' || name === 'contrast') return
  const out = await ask(POST('/api/pages', { body: { docs: [name] } }))
  screen.value = out.pages[0]
})
const swatches = ['color.ground', 'color.surface', 'color.accent', 'color.ink']
const swatch = (theme: string) =>
  swatches.flatMap(p => props.kit.tokens.find(x => x.path === p)?.values[theme] ?? [])
const forms = { dtcg: 'Design tokens', css: 'Style sheet', bundle: 'Bundle' }
const canTake = computed(() => Boolean(t.theme.value) && !t.changed.value)
</script>

<template>
  <div class="flex min-h-0 flex-1 max-lg:flex-col">
    <div
      class="w-[360px] shrink-0 overflow-auto border-r border-line p-4 max-lg:w-full max-lg:border-r-0"
    >
      <section aria-label="Themes">
        <div class="mb-2 flex items-baseline gap-2">
          <h2 class="text-lg">Themes</h2>
          <button class="btn ml-auto h-6" :aria-pressed="!t.draft.id" @click="make">
            Make one
          </button>
        </div>
        <ul class="sheet">
          <li
            v-for="x in t.data.value?.themes"
            :key="x.id"
            class="border-b border-line last:border-b-0"
          >
            <button
              class="flex w-full items-center gap-2 px-2 py-1 text-left hover:bg-wash"
              :class="{ 'bg-mosswash': x.id === t.draft.id }"
              :aria-pressed="x.id === t.draft.id"
              @click="choose(x.id)"
            >
              <span class="flex border border-line" aria-hidden="true"
                ><span
                  v-for="(c, i) in swatch(x.id)"
                  :key="i"
                  class="h-4 w-2.5"
                  :style="{ background: c }"
                ></span
              ></span>
              <span class="truncate" :class="{ 'font-semibold': x.id === t.draft.id }">{{
                x.name
              }}</span>
              <span class="ml-auto truncate text-xs text-ink2">{{
                x.own ? `from ${x.from}` : x.changed ? 'the kit’s, changed' : 'the kit’s'
              }}</span>
              <span v-if="x.failing" class="text-xs whitespace-nowrap text-rust"
                >{{ x.failing }} weak</span
              >
              <span v-if="x.missing.length" class="text-xs whitespace-nowrap text-rust"
                >font missing</span
              >
            </button>
          </li>
        </ul>
        <p v-for="u in t.data.value?.unfit" :key="u" class="mt-1 text-rust">{{ u }}</p>
      </section>

      <ThemeMaker v-if="t.data.value" :theme="t" :kit="kit" class="mt-4" />

      <p
        v-for="e in [t.error.value, t.refused.value].filter(Boolean)"
        :key="e"
        role="alert"
        class="mt-3 bg-rustwash p-2 text-rust"
      >
        {{ e }}
      </p>
      <div class="mt-3 flex flex-wrap gap-2">
        <button
          v-if="ws.canKeep"
          class="btn btn-main"
          :disabled="
            t.busy.value ||
            !t.changed.value ||
            !!t.error.value ||
            (!t.draft.id && !t.draft.name.trim())
          "
          @click="t.keep()"
        >
          {{ t.draft.id ? 'Keep the changes' : 'Keep the theme' }}
        </button>
        <p v-else class="text-ink2">
          Only a keeper keeps a theme. What you try is shown to you alone.
        </p>
        <button v-if="t.changed.value && t.draft.id" class="btn" @click="choose(t.draft.id)">
          As it was
        </button>
        <button
          v-if="ws.canKeep && t.theme.value && (t.theme.value.own || t.theme.value.changed)"
          class="btn ml-auto"
          @click="t.drop(t.draft.id).then(() => choose(kit.themes[0]!))"
        >
          {{ t.theme.value.own ? 'Take it away' : 'Back to the kit’s' }}
        </button>
      </div>

      <ThemeChecks v-if="t.preview.value" :preview="t.preview.value" class="mt-4" />

      <section class="mt-4" aria-label="Fonts">
        <h3 class="mb-1">Fonts</h3>
        <p v-for="f in t.preview.value?.missing" :key="f" class="mb-1 text-rust">
          Nothing brings the font {{ f }}: where it is not installed, another is shown. Add its
          file, or choose one that is here.
        </p>
        <ul class="text-ink2">
          <li v-for="f in t.data.value?.families" :key="f">
            {{ f }} <span class="text-xs">of the kit</span>
          </li>
          <li v-for="f in t.data.value?.fonts" :key="f.file" class="flex gap-2">
            <span>{{ f.family }} {{ f.weight }}{{ f.italic ? ' italic' : '' }}</span
            ><span class="text-xs">{{ Math.ceil(f.size / 1024) }} KB</span
            ><button
              v-if="ws.canKeep"
              class="ml-auto underline"
              :aria-label="`Take away ${f.family} ${f.weight}`"
              @click="t.removeFont(f.file)"
            >
              take away
            </button>
          </li>
        </ul>
        <button v-if="ws.canKeep" class="btn mt-1 h-6" @click="fonts.open()">
          Add a font (WOFF2)
        </button>
      </section>

      <section class="mt-4" aria-label="Take away">
        <h3 class="mb-1">Take it along</h3>
        <p v-if="!canTake" class="text-ink2">Keep it first; then its files can be taken.</p>
        <div v-else class="flex flex-wrap gap-2">
          <a
            v-for="(label, form) in forms"
            :key="form"
            class="btn h-6"
            :href="`/api/themes/${t.draft.id}/take/${form}`"
            download
            >{{ label }}</a
          >
        </div>
      </section>
    </div>

    <div class="flex min-h-0 min-w-0 flex-1 flex-col">
      <div class="flex items-center gap-3 border-b border-line px-4 py-1.5">
        <label class="flex items-center gap-2"
          >Seen on
          <select v-model="shown" class="input h-6">
            <option value="wall">the whole kit</option>
            <option value="contrast">every pair of colours</option>
            <optgroup label="Screens">
              <option v-for="s in ws.screens" :key="s.id" :value="`screen:${s.id}`">
                {{ s.title }}
              </option>
            </optgroup>
          </select></label
        >
        <span class="text-ink2" role="status">{{
          t.preview.value?.changes.length
            ? `${t.preview.value.changes.length} tokens differ from ${t.theme.value ? 'how it is kept' : t.draft.from}`
            : 'nothing differs yet'
        }}</span>
      </div>
      <div class="min-h-0 flex-1 overflow-auto">
        <ContrastSheet
          v-if="shown === 'contrast'"
          :key="t.preview.value?.css"
          :kit="kit"
          :themes="['draft']"
        />
        <TileStage v-else-if="t.preview.value" class="p-4">
          <ul
            v-if="shown === 'wall'"
            class="grid grid-cols-[repeat(auto-fill,minmax(220px,1fr))] gap-3"
          >
            <li v-for="c in kit.components" :key="c.tag">
              <LiveTile
                class="border border-line"
                :html="pages[c.tag]?.html"
                :props="pages[c.tag]?.props"
                theme="draft"
                :width="c.level === 'composite' ? 420 : 280"
                :height="112"
                centred
                fit
                :label="`${c.title} in the theme`"
              /><span class="text-xs text-ink2">{{ c.title }}</span>
            </li>
          </ul>
          <LiveTile
            v-else-if="screen"
            class="border border-line"
            :html="screen.html"
            :props="screen.props"
            theme="draft"
            :width="1280"
            :height="height"
            measure
            label="The screen in the theme"
            @drawn="h => (height = Math.max(300, Math.min(1400, h * 0.66)))"
          />
        </TileStage>
      </div>
    </div>
  </div>
</template>
