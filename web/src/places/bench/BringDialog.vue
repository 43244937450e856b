<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { ask, POST, type Element, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import { useBench } from './useBench'

/** Markup from elsewhere, read as components: what each part was taken for, how
 * certain that is, and how it will look, before it goes in. */
const props = defineProps<{ html: string }>()
const emit = defineEmits<{ close: []; done: [] }>()
const bench = useBench()
const source = ref(props.html)
const asked = refDebounced(source, 250)
const data = shallowRef<Schemas['ApiBringOut']>()
const error = ref('')
const chosen = ref<Record<string, string>>({})
const all = ref(false)
const height = ref(200)
let latest = 0
watch(
  [asked, chosen],
  async () => {
    const mine = ++latest
    error.value = ''
    if (!asked.value.trim()) {
      data.value = undefined
      return
    }
    try {
      const got = await ask(
        POST('/api/bring-in', {
          body: { html: asked.value, doc: bench.doc.value, chosen: chosen.value },
        }),
      )
      if (mine === latest) data.value = got
    } catch (e) {
      if (mine === latest) {
        error.value = (e as Error).message
        data.value = undefined
      }
    }
  },
  { immediate: true },
)
watch(asked, () => {
  chosen.value = {}
})
// Words and what stands as it was written are no guesses worth a line each.
const guesses = computed(() =>
  (data.value?.guesses ?? [])
    .filter(g => all.value || g.certainty < 0.9 || g.plain || g.element in chosen.value)
    .toSorted((a, b) => a.certainty - b.certainty),
)
const sure = computed(() => (data.value?.guesses.length ?? 0) - guesses.value.length)
const words = (c: number) =>
  c >= 0.9 ? 'sure' : c >= 0.7 ? 'likely' : c > 0.4 ? 'perhaps' : 'unsure'
function choose(id: string, type: string, was: string) {
  const next = { ...chosen.value }
  if (type === was && !(id in next)) return
  next[id] = type
  chosen.value = next
}
async function put() {
  if (data.value && (await bench.paste(data.value.trees as unknown as Element[], true)))
    emit('done')
  else error.value = bench.refusal.value
}
</script>

<template>
  <AppDialog title="Bring in markup" wide @close="emit('close')">
    <label class="block"
      >Markup<textarea
        v-model="source"
        class="input mt-0.5 h-24 w-full resize-y font-mono text-xs"
        spellcheck="false"
        placeholder="Paste HTML: an example, a part of an old page"
        @keydown.ctrl.enter="put"
      ></textarea>
    </label>
    <p v-if="error" role="alert" class="mt-2 text-rust">{{ error }}</p>
    <div v-if="data" class="mt-2 max-h-[48vh] overflow-auto">
      <TileStage
        ><LiveTile
          class="border border-line"
          :html="data.page.html"
          :props="data.page.props"
          :theme="bench.theme.value"
          :width="728"
          :height="Math.min(260, height)"
          measure
          label="How it will look"
          @drawn="h => (height = h)"
      /></TileStage>
      <ul class="mt-2" aria-label="What it was taken for">
        <li
          v-for="g in guesses"
          :key="g.element"
          class="grid grid-cols-[52px_150px_minmax(0,1fr)] items-center gap-x-2 border-t border-line py-0.5"
        >
          <span
            class="flex items-center gap-1"
            :title="`${Math.round(100 * g.certainty)} % sure: ${g.why}`"
            ><span class="h-1.5 w-8 bg-wash"
              ><span
                class="block h-1.5"
                :class="g.certainty < 0.5 ? 'bg-rust' : 'bg-moss'"
                :style="{ width: 100 * g.certainty + '%' }"
              ></span></span
            ><span class="sr-only">{{ words(g.certainty) }}</span></span
          >
          <select
            class="input h-5"
            :aria-label="`What ${g.from} ${g.text} is`"
            :value="g.type"
            @change="choose(g.element, ($event.target as HTMLSelectElement).value, g.type)"
          >
            <option :value="g.type">{{ g.title }}</option>
            <option v-for="o in g.others" :key="o.type" :value="o.type">
              {{ o.title }}{{ g.plain ? '?' : '' }}
            </option>
            <option v-if="!g.plain" value="markup">plain markup</option>
          </select>
          <span class="min-w-0 truncate text-ink2"
            ><span class="font-mono text-xs">{{ g.from }}</span> {{ g.text
            }}<span class="text-xs">, {{ g.why }}</span></span
          >
        </li>
      </ul>
      <button v-if="sure || all" class="text-xs underline" :aria-expanded="all" @click="all = !all">
        {{ all ? 'only what may be otherwise' : `${sure} more that are sure` }}
      </button>
      <dl v-if="data.needs.length || data.leftOut.length" class="mt-2">
        <div v-for="n in data.needs" :key="'n' + n.what" class="text-rust">
          <dt class="inline">Still needed: {{ n.what }}</dt>
          <dd class="inline">, {{ n.why }}</dd>
        </div>
        <div v-for="n in data.leftOut" :key="'l' + n.what" class="text-ink2">
          <dt class="inline">
            Left out: <span class="font-mono text-xs">{{ n.what }}</span>
          </dt>
          <dd v-if="n.why" class="inline">, {{ n.why }}</dd>
        </div>
      </dl>
    </div>
    <div class="mt-3 flex items-center justify-end gap-2">
      <span class="mr-auto text-ink2">Goes in after {{ bench.title(bench.selected.value) }}.</span
      ><button class="btn btn-bare" @click="emit('close')">Cancel</button
      ><button class="btn btn-main" :disabled="!data" @click="put">
        Put in <kbd class="kbd">Ctrl Enter</kbd>
      </button>
    </div>
  </AppDialog>
</template>
