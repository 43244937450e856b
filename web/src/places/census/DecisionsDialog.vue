<script setup lang="ts">
import { onMounted, shallowRef, ref } from 'vue'
import { ask, GET, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import PatchText from '../../ui/PatchText.vue'
import { download } from '../../use/download'
import { useWorkspace } from '../../use/workspace'

/** What was decided here, as a patch of the settings of the repository that the screens stand in. */
defineEmits<{ close: [] }>()
const ws = useWorkspace()
const data = shallowRef<Schemas['ApiDecisionsOut']>()
const error = ref('')
onMounted(async () => {
  try {
    data.value = await ask(GET('/api/code/decisions'))
  } catch (e) {
    error.value = (e as Error).message
  }
})
type Decisions = Schemas['ApiCodeDecisions']
const parts: { of: (d: Decisions) => string[]; title: string; tone?: string }[] = [
  { of: d => d.brings, title: 'Decided here' },
  { of: d => d.lifts, title: 'Lifted here' },
  { of: d => d.both, title: 'Decided otherwise in both', tone: 'text-rust' },
  { of: d => d.left, title: 'Does not go there', tone: 'text-slate' },
]
function take(d: Decisions) {
  const name = `${d.repository}-decisions.patch`
  download(name, d.diff, 'text/x-patch')
  ws.say(`${name} downloaded; apply it with git apply ${name}.`)
}
</script>

<template>
  <AppDialog title="Decisions into the repository" wide @close="$emit('close')">
    <p v-if="error" role="alert" class="text-rust">{{ error }}</p>
    <p v-else-if="!data" class="text-ink2" role="status">Comparing …</p>
    <p v-else-if="!data.repositories.length" class="text-ink2">
      No repository that these screens were read from is known here. Start with
      <code>ubiquant serve --code FOLDER</code> or <code>--repository NAME=FOLDER</code>.
    </p>
    <template v-else>
      <p class="text-ink2">
        House rules, rules of your own, how rules are held, and what is let stand: with them in the
        repository, <code>ubiquant audit</code> and the build say what is said here.
      </p>
      <section v-for="d in data.repositories" :key="d.repository" class="mt-3">
        <div class="flex items-center gap-2">
          <h3 class="mr-auto">
            {{ d.repository }} <code class="font-normal text-ink2">{{ d.file }}</code>
          </h3>
          <button v-if="d.diff" class="btn btn-main" @click="take(d)">Download the patch</button>
        </div>
        <p v-if="d.problem" role="alert" class="text-rust">{{ d.problem }}</p>
        <p v-else-if="!d.diff" class="text-ink2">The file says all that was decided here.</p>
        <template v-for="p in parts" :key="p.title">
          <template v-if="p.of(d).length">
            <h4 class="mt-2 text-ink2">{{ p.title }}</h4>
            <ul :class="p.tone">
              <li v-for="w in p.of(d)" :key="w">{{ w }}</li>
            </ul>
          </template>
        </template>
        <PatchText v-if="d.diff" class="mt-2 max-h-[40vh]" :text="d.diff" label="The patch" />
      </section>
    </template>
    <div class="mt-3 flex justify-end">
      <button class="btn btn-bare" @click="$emit('close')">Close</button>
    </div>
  </AppDialog>
</template>
