<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { ask, clientId, GET, POST, type Schemas } from '../api/client'
import { accepted, base64, pictureAt, size } from '../use/pictures'
import { useWorkspace } from '../use/workspace'
import AppDialog from './AppDialog.vue'

/** Chooses a picture among those that the workspace keeps, or adds one. With words it is asked
 * what the picture shows, for those who do not see it. */
const props = defineProps<{ title: string; current?: string; words?: string }>()
const emit = defineEmits<{ choose: [address: string, words?: string]; close: [] }>()
type Shown = Schemas['ApiPictureView']
const ws = useWorkspace()
const list = shallowRef<Shown[]>()
const at = ref(props.current ?? '')
const said = ref(props.words ?? '')
const error = ref('')
const busy = ref(false)
const over = ref(false)
const chosen = computed(() => list.value?.find(p => p.address === at.value))

async function load() {
  try {
    list.value = (await ask(GET('/api/pictures'))).pictures
  } catch (e) {
    error.value = (e as Error).message
  }
}
onMounted(load)

async function add(files: FileList | null | undefined) {
  error.value = ''
  busy.value = true
  try {
    for (const file of files ?? []) {
      if (!accepted.includes(file.type))
        throw new Error(
          `${file.name || 'The file'} is ${file.type || 'of no known kind'}; accepted: PNG, JPEG, WebP, GIF`,
        )
      const out = await ask(
        POST('/api/pictures', {
          body: { title: file.name, data: await base64(file), client: clientId },
        }),
      )
      if (out.change) ws.note(out.change)
      at.value = out.picture.address
    }
  } catch (e) {
    error.value = (e as Error).message
  } finally {
    busy.value = false
    await load()
  }
}
async function remove(p: Shown) {
  error.value = ''
  try {
    ws.note(await ask(POST('/api/pictures/remove', { body: { id: p.id, client: clientId } })))
    ws.say(`${p.title || 'The picture'} is taken away. Ctrl+Z brings it back.`)
    at.value = ''
  } catch (e) {
    error.value = (e as Error).message
  }
  await load()
}
useEventListener('paste', e => {
  if (!e.clipboardData?.files.length) return
  e.preventDefault()
  void add(e.clipboardData.files)
})
function drop(e: DragEvent) {
  over.value = false
  void add(e.dataTransfer?.files)
}
const use = () =>
  chosen.value &&
  emit('choose', chosen.value.address, props.words === undefined ? undefined : said.value.trim())
const where = (p: Shown) => [...p.shown, ...p.planned.map(s => `the plan of ${s}`)]
</script>

<template>
  <AppDialog :title="title" wide @close="$emit('close')">
    <div
      class="grid gap-3"
      @dragover.prevent="over = true"
      @dragleave="over = false"
      @drop.prevent="drop"
    >
      <p class="flex flex-wrap items-center gap-3">
        <label class="btn cursor-pointer focus-within:outline-2 focus-within:outline-moss"
          >Add a picture<input
            type="file"
            multiple
            class="sr-only"
            :accept="accepted.join(',')"
            :disabled="busy"
            @change="add(($event.target as HTMLInputElement).files)"
        /></label>
        <span class="text-ink2">{{
          busy ? 'Reading …' : 'or drop or paste it here: PNG, JPEG, WebP, up to 8 MB'
        }}</span>
      </p>
      <p v-if="error" role="alert" class="bg-rustwash p-2 text-rust">{{ error }}</p>
      <div
        class="grid max-h-[46vh] min-h-32 grid-cols-[repeat(auto-fill,minmax(150px,1fr))] content-start gap-2 overflow-auto border p-2"
        :class="over ? 'border-moss bg-mosswash' : 'border-line bg-ground'"
        role="group"
        aria-label="Pictures"
      >
        <button
          v-for="p in list"
          :key="p.id"
          type="button"
          class="grid gap-1 border p-1 text-left"
          :class="
            p.address === at ? 'border-moss bg-mosswash' : 'border-line bg-sheet hover:bg-wash'
          "
          :aria-pressed="p.address === at"
          @click="at = p.address"
          @dblclick="use"
        >
          <img
            :src="pictureAt(p.address)"
            alt=""
            loading="lazy"
            class="h-24 w-full bg-wash object-contain"
          />
          <span class="truncate font-semibold" :title="p.title">{{
            p.title || 'Without a name'
          }}</span>
          <span class="text-xs text-ink2"
            >{{ p.width }} × {{ p.height }}, {{ size(p.bytes)
            }}<template v-if="where(p).length">, shown in {{ where(p).length }}</template></span
          >
        </button>
        <p v-if="list && !list.length" class="col-span-full self-center p-4 text-center text-ink2">
          No picture is kept yet.
        </p>
      </div>
      <label v-if="words !== undefined" class="grid gap-1"
        >What it shows, in words
        <input
          v-model="said"
          class="input"
          maxlength="300"
          placeholder="An oak in March, before its leaves"
          @keydown.enter.prevent="use"
        />
      </label>
      <div class="flex flex-wrap items-center gap-2">
        <p v-if="chosen && where(chosen).length" class="min-w-0 truncate text-ink2">
          Shown by {{ where(chosen).slice(0, 2).join(', ')
          }}<template v-if="where(chosen).length > 2">
            and {{ where(chosen).length - 2 }} more</template
          >
        </p>
        <button v-else-if="chosen" type="button" class="btn" @click="remove(chosen)">
          Take it away
        </button>
        <span class="ml-auto"></span>
        <button type="button" class="btn" @click="$emit('close')">Leave it</button
        ><button type="button" class="btn btn-main" :disabled="!chosen" @click="use">Use it</button>
      </div>
    </div>
  </AppDialog>
</template>
