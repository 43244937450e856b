<script setup lang="ts">
import { computed, ref, shallowRef, watch, watchEffect } from 'vue'
import { ask, GET, POST, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { useWorkspace } from '../../use/workspace'
import type { Fetching } from './fetching'

/** Fetches a library from a registry that a keeper allowed; keepers allow registries here. What
 * comes of it waits in Intake. It goes on when the dialog is closed, and is found again here. */
const props = defineProps<{ door: Fetching }>()
defineEmits<{ look: [hash: string]; close: [] }>()
const ws = useWorkspace()
const keeper = computed(() => ws.data?.me.role === 'keeper')
const { data, now, running } = props.door
const has = shallowRef<Schemas['ApiPackageOut']>()
const from = ref('')
const name = ref('')
const version = ref('')
const address = ref('')
const token = ref('')
const failed = ref('')
const error = computed(() => failed.value || props.door.error.value)
const looking = ref(false)
watchEffect(() => (from.value ||= data.value?.registries[0]?.address ?? ''))
void props.door.load()
// What has the focus cannot be used while it runs, nor what stops it afterwards.
const halt = ref<HTMLButtonElement>()
const asks = ref<HTMLInputElement>()
watch(running, is => (is ? halt.value : asks.value)?.focus(), { flush: 'post' })

async function allow(path: '/api/registries' | '/api/registries/remove', at: string) {
  failed.value = ''
  try {
    const out = await ask(
      POST(path, { body: { address: at, token: path === '/api/registries' ? token.value : '' } }),
    )
    props.door.take(out)
    if (path === '/api/registries') {
      from.value =
        out.registries.find(r => r.address === at.trim().replace(/\/+$/, ''))?.address ?? from.value
      address.value = token.value = ''
    } else if (from.value === at) from.value = out.registries[0]?.address ?? ''
  } catch (e) {
    failed.value = (e as Error).message
  }
}

/** What there is of the package; the version that was chosen stays where there is such. */
async function look() {
  // Its version may be written behind its name, as on a command line.
  const [, asked = '', wanted = ''] = /^(.[^@]*)(?:@(.*))?$/.exec(name.value.trim()) ?? []
  name.value = asked
  if (!asked || !from.value || (has.value?.name === asked && !wanted)) return
  has.value = undefined
  failed.value = ''
  looking.value = true
  try {
    const out = await ask(
      GET('/api/registries/package', {
        params: { query: { registry: from.value, package: asked } },
      }),
    )
    if (asked !== name.value.trim()) return
    has.value = out
    if (wanted)
      version.value = out.versions.find(v => v === wanted || v.startsWith(`${wanted}.`)) ?? ''
    if (wanted && !version.value) failed.value = `${asked} has no version ${wanted}.`
    if (!out.versions.includes(version.value)) version.value = ''
  } catch (e) {
    failed.value = (e as Error).message
  } finally {
    looking.value = false
  }
}

async function fetchIt() {
  failed.value = ''
  await look()
  if (!has.value || failed.value) return
  try {
    const out = await ask(
      POST('/api/registries/fetch', {
        body: { registry: from.value, package: has.value.name, version: version.value },
      }),
    )
    await props.door.begun(out.id)
  } catch (e) {
    failed.value = (e as Error).message
  }
}

async function stop() {
  try {
    await ask(POST('/api/registries/stop', { body: { id: now.value!.id } }))
    await props.door.load()
  } catch (e) {
    failed.value = (e as Error).message
  }
}
</script>

<template>
  <AppDialog title="Fetch a library" wide @close="$emit('close')">
    <div class="grid gap-3">
      <p v-if="error" role="alert" class="bg-rustwash p-2 whitespace-pre-wrap text-rust">
        {{ error }}
      </p>
      <p v-if="data && !data.registries.length" class="text-ink2">
        No registry is allowed yet.
        {{
          keeper
            ? 'Say below which one libraries may be fetched from.'
            : 'A keeper says which one libraries may be fetched from.'
        }}
      </p>
      <form v-else class="grid gap-3" @submit.prevent="fetchIt">
        <div class="grid gap-3 sm:grid-cols-[1fr_1fr_9rem]">
          <label class="grid content-start gap-1"
            >Registry
            <select v-model="from" class="input" :disabled="running" @change="has = undefined">
              <option v-for="r in data?.registries" :key="r.address" :value="r.address">
                {{ r.address.replace(/^https?:\/\//, '') }}
              </option>
            </select>
          </label>
          <label class="grid content-start gap-1"
            >Package
            <input
              ref="asks"
              v-model="name"
              class="input"
              required
              autocomplete="off"
              spellcheck="false"
              placeholder="@acme/orchard-ui"
              :disabled="running"
              @change="look"
            />
          </label>
          <label class="grid content-start gap-1"
            >Version
            <select v-model="version" class="input" :disabled="running || !has">
              <option value="">{{ has?.latest ? `latest, ${has.latest}` : 'the latest' }}</option>
              <option v-for="v in has?.versions" :key="v">{{ v }}</option>
            </select>
          </label>
        </div>
        <p class="text-ink2" role="status">
          <template v-if="looking">Asking for {{ name }} …</template>
          <template v-else-if="has"
            >{{ has.all }} {{ has.all === 1 ? 'version' : 'versions'
            }}<template v-if="has.here.length"
              >; brought in already: {{ has.here.join(', ') }}</template
            >.</template
          >
          <template v-else>It comes with all that it asks for. No script of it is run.</template>
        </p>
        <div class="flex gap-2">
          <button class="btn btn-main" :disabled="running || looking || !from">Fetch it</button>
          <button v-if="running" ref="halt" type="button" class="btn" @click="stop">Stop</button>
        </div>
      </form>
      <section v-if="now" aria-label="Fetching" class="border-t border-line pt-3">
        <p role="status">
          <b>{{ now.package }}</b>
          <template v-if="now.state === 'running'">
            is being fetched for {{ now.by }}, {{ Math.round(now.seconds) }} s</template
          >
          <template v-else-if="now.state === 'done'">
            was fetched in {{ Math.round(now.seconds) }} s.
            <button type="button" class="underline" @click="$emit('look', now.hash)">
              Look at it
            </button></template
          >
          <template v-else-if="now.state === 'stopped'"> was stopped; nothing was taken.</template>
          <template v-else> could not be brought in.</template>
        </p>
        <p v-if="now.why" class="mt-1 bg-rustwash p-2 whitespace-pre-wrap text-rust">
          {{ now.why }}
        </p>
        <ol class="mt-2 max-h-40 overflow-auto text-ink2">
          <li
            v-for="(step, i) in now.steps"
            :key="i"
            :class="{ 'text-ink': running && i === now.steps.length - 1 }"
          >
            {{ step }}{{ running && i === now.steps.length - 1 ? ' …' : '' }}
          </li>
        </ol>
      </section>
      <section v-if="keeper" aria-label="Registries" class="grid gap-2 border-t border-line pt-3">
        <h3 class="font-semibold">Registries that libraries may be fetched from</h3>
        <ul class="grid gap-1">
          <li v-for="r in data?.registries" :key="r.address" class="flex items-baseline gap-2">
            <span class="min-w-0 break-all">{{ r.address }}</span>
            <span class="shrink-0 text-ink2"
              >{{ r.inside ? 'inside this network, ' : '' }}{{ r.known ? 'with a token, ' : '' }}by
              {{ r.by }}</span
            >
            <button
              type="button"
              class="btn btn-bare ml-auto shrink-0"
              :aria-label="`No longer allow ${r.address}`"
              :disabled="running"
              @click="allow('/api/registries/remove', r.address)"
            >
              No longer
            </button>
          </li>
        </ul>
        <form class="flex gap-2" @submit.prevent="allow('/api/registries', address)">
          <input
            v-model="address"
            class="input min-w-0 flex-1"
            type="url"
            required
            aria-label="Address of a registry"
            placeholder="https://registry.acme.example"
          />
          <input
            v-model="token"
            class="input w-48"
            type="password"
            autocomplete="off"
            aria-label="Token for that registry, where it wants one"
            placeholder="Token, if it wants one"
          />
          <button class="btn">Allow it</button>
        </form>
        <p class="text-xs text-ink2">
          The server asks these addresses and no others; a token is told to its registry alone, and
          one that is given again takes the place of the last. What a package says of itself is
          checked against the registry; what it holds is drawn in the sandboxed frame alone.
        </p>
      </section>
    </div>
  </AppDialog>
</template>
