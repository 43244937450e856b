<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { ask, clientId, POST } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { useWorkspace } from '../../use/workspace'

/** Adds a vector icon or a logo of the team's own. What runs or loads is refused. */
const emit = defineEmits<{ close: [] }>()
const ws = useWorkspace()
const name = ref('')
const meanings = ref('')
const source = ref('')
const svg = ref('')
const error = ref('')
const picture = computed(() =>
  svg.value ? 'data:image/svg+xml,' + encodeURIComponent(svg.value) : '',
)

async function take(e: Event) {
  const field = e.target as HTMLInputElement
  const file = field.files?.[0]
  if (!file) return
  source.value = await file.text()
  field.value = '' // so that the same file, mended, can be chosen again
  name.value ||= file.name
    .replace(/\.svg$/i, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^[-0-9]+|-+$/g, '')
}
const check = useDebounceFn(async () => {
  if (!source.value.trim()) {
    svg.value = error.value = ''
    return
  }
  try {
    svg.value = (
      await ask(POST('/api/icons/check', { body: { svg: source.value, name: name.value } }))
    ).svg
    error.value = ''
  } catch (e) {
    svg.value = ''
    error.value = (e as Error).message
  }
}, 80)
watch([source, name], () => void check())
async function keep() {
  try {
    ws.note(
      await ask(
        POST('/api/changes', {
          body: {
            change: {
              title: `Add the icon ${name.value}`,
              steps: [
                {
                  do: 'icon',
                  icon: {
                    name: name.value,
                    meanings: meanings.value
                      .split(',')
                      .map(m => m.trim())
                      .filter(Boolean),
                    svg: svg.value,
                  },
                },
              ],
            },
            client: clientId,
          },
        }),
      ),
    )
    await ws.load()
    ws.say(`The icon ${name.value} is in the kit.`)
    emit('close')
  } catch (e) {
    error.value = (e as Error).message
  }
}
</script>

<template>
  <AppDialog title="An icon of your own" @close="$emit('close')">
    <form class="grid gap-3" @submit.prevent="keep">
      <label class="grid gap-1"
        >SVG file<input
          type="file"
          accept=".svg,image/svg+xml"
          class="file:btn file:mr-2"
          @change="take"
      /></label>
      <label class="grid gap-1"
        >or its text<textarea
          v-model="source"
          rows="4"
          class="input h-auto py-1 font-mono text-xs"
          spellcheck="false"
          placeholder='<svg viewBox="0 0 24 24">…'
        ></textarea>
      </label>
      <label class="grid gap-1"
        >Name<input v-model.trim="name" class="input" placeholder="water-butt"
      /></label>
      <label class="grid gap-1"
        >What it means, with commas<input
          v-model="meanings"
          class="input"
          placeholder="rain, barrel, store"
      /></label>
      <p v-if="error" role="alert" class="bg-rustwash p-2 text-rust">{{ error }}</p>
      <div v-if="picture" class="flex items-center gap-4 border border-line p-3">
        <img
          v-for="s in [16, 24, 48]"
          :key="s"
          :src="picture"
          :width="s"
          :height="s"
          :alt="s === 48 ? 'The icon as it will be kept' : ''"
        /><span class="text-ink2"
          >shapes only; it takes the colour of the words beside it where it says currentColor</span
        >
      </div>
      <div class="flex justify-end gap-2">
        <button type="button" class="btn" @click="$emit('close')">Leave it</button
        ><button class="btn btn-main" :disabled="!svg || !name">Add it</button>
      </div>
    </form>
  </AppDialog>
</template>
