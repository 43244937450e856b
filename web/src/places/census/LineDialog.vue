<script setup lang="ts">
import { onMounted, ref, shallowRef } from 'vue'
import { ask, clientId, POST, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
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
      <p v-if="data.skipped.length" class="mb-2 text-slate">
        {{ data.skipped.length }} cannot be changed so and stay as they are.
      </p>
      <div class="max-h-[50vh] overflow-auto">
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
      <div class="mt-3 flex justify-end gap-2">
        <button class="btn btn-bare" @click="$emit('close')">Cancel</button
        ><button class="btn btn-main" :disabled="busy || !ws.canBuild" @click="apply">
          Apply on {{ data.docs.length }} {{ data.docs.length === 1 ? 'screen' : 'screens' }}
        </button>
      </div>
    </template>
  </AppDialog>
</template>
