<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { ask, POST, type Page, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import { useWorkspace } from '../../use/workspace'
import ThemeChecks from './ThemeChecks.vue'
import { draftOf, useTheme } from './useTheme'

/** Changes one token in one theme: what it reaches stands beside it before it is kept. */
const props = defineProps<{ token: Schemas['KitToken']; inTheme: string }>()
const emit = defineEmits<{ close: [] }>()
const ws = useWorkspace()
const t = useTheme()
const value = ref(props.token.values[props.inTheme] ?? '')
const written = computed(() => typeof t.draft.tokens[props.token.path] === 'string')
const page = shallowRef<Page>()
const doc = computed(() => t.preview.value?.reach.docs.find(d => d.doc.startsWith('screen:')))

onMounted(async () => {
  await t.load()
  const theme = t.data.value?.themes.find(x => x.id === props.inTheme)
  if (theme) t.open(draftOf(theme))
})
watch(value, v => {
  t.draft.tokens = { ...t.draft.tokens, [props.token.path]: v.trim() }
})
watch(
  () => doc.value?.doc,
  async name => {
    if (!name) {
      page.value = undefined
      return
    }
    page.value = (await ask(POST('/api/pages', { body: { docs: [name] } }))).pages[0]
  },
)
async function keep() {
  if (await t.keep()) emit('close')
}
</script>

<template>
  <AppDialog :title="`${token.path} in ${inTheme}`" wide @close="$emit('close')">
    <form class="grid gap-3" @submit.prevent="keep">
      <div class="flex flex-wrap items-end gap-3">
        <label class="grid gap-1"
          >Value<span class="flex items-center gap-1"
            ><input
              v-if="token.type === 'color' && /^#[0-9a-f]{6}/i.test(value)"
              type="color"
              class="size-7 border border-line bg-sheet p-0.5"
              aria-label="Choose a colour"
              :value="value.slice(0, 7).toLowerCase()"
              @input="value = ($event.target as HTMLInputElement).value.toUpperCase()" /><input
              v-model="value"
              class="input w-64 font-mono"
              :aria-invalid="!!t.error.value"
              aria-describedby="token-problem"
              autofocus /></span
        ></label>
        <p class="pb-1 text-ink2">
          was <code>{{ token.values[inTheme] }}</code><template v-if="token.alias"
            >, the same as <code>{{ token.alias }}</code></template
          >. A value, or <code>{another.token}</code>.
        </p>
      </div>
      <p
        v-if="(t.error.value || t.refused.value) && written"
        id="token-problem"
        role="alert"
        class="bg-rustwash p-2 text-rust"
      >
        {{ t.error.value || t.refused.value }}
      </p>
      <ThemeChecks v-if="t.preview.value && written" :preview="t.preview.value" />
      <div v-if="page && t.preview.value?.changes.length" class="grid grid-cols-2 gap-3">
        <TileStage v-for="x in [inTheme, 'draft']" :key="x"
          ><p class="mb-1 text-xs text-ink2">
            {{ ws.data?.docs.find(d => `screen:${d.id}` === doc?.doc)?.title }},
            {{ x === 'draft' ? 'then' : 'now' }}
          </p>
          <LiveTile
            class="border border-line"
            :html="page.html"
            :props="page.props"
            :theme="x"
            :width="960"
            :height="190"
        /></TileStage>
      </div>
      <div class="flex justify-end gap-2">
        <button type="button" class="btn" @click="$emit('close')">Leave it</button
        ><button
          class="btn btn-main"
          :disabled="
            !written || !!t.error.value || t.busy.value || !t.preview.value?.changes.length
          "
        >
          Keep it
        </button>
      </div>
    </form>
  </AppDialog>
</template>
