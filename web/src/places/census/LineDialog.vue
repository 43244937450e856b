<script setup lang="ts">
import { onMounted, ref, shallowRef } from 'vue'
import { ask, clientId, POST, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import LiveTile from '../../ui/LiveTile.vue'
import PatchText from '../../ui/PatchText.vue'
import TileStage from '../../ui/TileStage.vue'
import { counted } from '../../use/counted'
import { download } from '../../use/download'
import { useWorkspace } from '../../use/workspace'

/** Before and after on each screen, then one change for all of them. */
const props = defineProps<{
  strays?: string[]
  question?: string
  findings?: string[]
  uses?: string[]
  prop?: string
  value?: string
}>()
const emit = defineEmits<{ close: []; done: [] }>()
const ws = useWorkspace()
const data = shallowRef<Schemas['ApiLineOut']>()
const error = ref('')
const busy = ref(false)
const request = (apply: boolean) =>
  ask(
    POST('/api/census/line', {
      body: {
        strays: props.strays,
        findings: props.findings,
        uses: props.uses,
        prop: props.prop,
        value: props.value,
        question: props.question,
        apply,
        client: clientId,
      },
    }),
  )
onMounted(async () => {
  try {
    data.value = await request(false)
  } catch (e) {
    error.value = (e as Error).message
  }
})
async function apply() {
  busy.value = true
  try {
    const out = await request(true)
    if (out.taken) ws.note(out.taken)
    ws.say(`${out.taken?.title ?? 'Done'}; undo takes it back as one step.`)
    await ws.load()
    emit('done')
  } catch (e) {
    error.value = (e as Error).message
  } finally {
    busy.value = false
  }
}
const screens = (n: number) => counted(n, 'screen')
function take() {
  const patch = data.value?.patch
  if (!patch) return
  const name = `${patch.repository ?? 'code'}.patch`
  download(name, patch.diff, 'text/x-patch')
  ws.say(`${name} downloaded; apply it with git apply ${name}.`)
}
</script>

<template>
  <AppDialog
    :title="uses && !strays ? 'Before and after' : 'Bring into line'"
    wide
    @close="$emit('close')"
  >
    <p v-if="error" role="alert" class="text-rust">{{ error }}</p>
    <p v-else-if="!data" class="text-ink2" role="status">Preparing …</p>
    <template v-else>
      <details v-if="data.skipped.length" class="mb-2 text-slate">
        <summary class="cursor-pointer">
          {{ data.skipped.length }} cannot be changed so and
          {{ data.skipped.length === 1 ? 'stays as it is' : 'stay as they are' }}
        </summary>
        <ul>
          <li v-for="s in data.skipped" :key="s.key">
            <code>{{ s.key }}</code>: {{ s.why }}
          </li>
        </ul>
      </details>
      <div v-if="data.brings.length" class="mb-2 border-l-2 border-rust pl-2" role="alert">
        Together they would bring what is not there now:
        <ul>
          <li v-for="b in data.brings" :key="b">{{ b }}</li>
        </ul>
      </div>
      <div class="overflow-auto" :class="data.inCode ? 'max-h-[30vh]' : 'max-h-[50vh]'">
        <TileStage>
          <section v-for="d in data.docs" :key="d.doc" class="mb-4">
            <h3>
              {{ d.title }} <span class="font-normal text-ink2">{{ d.words.join('; ') }}</span>
            </h3>
            <div class="mt-1 grid grid-cols-2 gap-3">
              <figure>
                <LiveTile
                  class="border border-line"
                  :html="d.before.html"
                  :props="d.before.props"
                  :width="640"
                  :height="190"
                  fit
                />
                <figcaption class="text-xs text-ink2">before</figcaption>
              </figure>
              <figure>
                <LiveTile
                  class="border border-line"
                  :html="d.after.html"
                  :props="d.after.props"
                  :width="640"
                  :height="190"
                  fit
                />
                <figcaption class="text-xs text-ink2">after</figcaption>
              </figure>
            </div>
          </section>
        </TileStage>
      </div>
      <section v-if="data.inCode" class="mt-3 border-t border-line pt-3" aria-label="In code">
        <p v-if="!data.patch?.repository" class="text-ink2">
          {{ screens(data.inCode) }} read from code, and repaired there. To have the patch here,
          start with <code>ubiquant serve --repository NAME=FOLDER</code>; on the command line it is
          <code>ubiquant audit FOLDER --patch FILE</code>.
        </p>
        <template v-else>
          <p class="text-ink2">
            Read from code: the patch for <b>{{ data.patch.repository }}</b> changes literals in
            {{ data.patch.files }} {{ data.patch.files === 1 ? 'file' : 'files' }}, and nothing
            else.
          </p>
          <ul v-if="data.patch.unmade.length" class="mt-1 text-slate">
            <li v-for="u in data.patch.unmade" :key="u">{{ u }}</li>
          </ul>
          <PatchText
            v-if="data.patch.diff"
            class="mt-2 max-h-[20vh]"
            :text="data.patch.diff"
            label="The patch"
          />
        </template>
      </section>
      <div class="mt-3 flex justify-end gap-2">
        <button class="btn btn-bare" @click="$emit('close')">Cancel</button>
        <button v-if="data.patch?.diff" class="btn btn-main" @click="take">
          Download the patch
        </button>
        <button
          v-if="data.docs.length > data.inCode"
          class="btn btn-main"
          :disabled="busy || !ws.canBuild"
          @click="apply"
        >
          Apply on {{ screens(data.docs.length - data.inCode) }}
        </button>
      </div>
    </template>
  </AppDialog>
</template>
