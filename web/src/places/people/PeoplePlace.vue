<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue'
import { ask, GET, POST, type Schemas } from '../../api/client'
import { useWorkspace } from '../../use/workspace'
import OwnPassword from './OwnPassword.vue'
import PersonRow from './PersonRow.vue'

/** Who works here. Keepers add people, say what they may, let them in and out, and read
 * who signed in; everybody changes their own password. */
const ws = useWorkspace()
const data = shallowRef<Schemas['ApiPeopleOut']>()
const error = ref('')
const keeps = computed(() => ws.data?.me.role === 'keeper')
const fresh = ref({ name: '', fullName: '', role: 'builder' })

async function load() {
  error.value = ''
  try {
    data.value = await ask(GET('/api/people'))
  } catch (e) {
    error.value = (e as Error).message
  }
}
onMounted(load)
async function add() {
  try {
    await ask(POST('/api/people', { body: fresh.value }))
    fresh.value = { name: '', fullName: '', role: 'builder' }
    await load()
  } catch (e) {
    error.value = (e as Error).message
  }
}
const time = (at: string) =>
  new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <div class="h-full overflow-auto">
    <div class="mx-auto grid max-w-6xl gap-8 p-6 lg:grid-cols-[minmax(0,1fr)_280px]">
      <div class="min-w-0">
        <h1 class="mb-3 text-xl">People</h1>
        <p v-if="error" role="alert" class="mb-3 text-rust">{{ error }}</p>
        <div v-if="keeps && data" class="overflow-x-auto">
          <table class="w-full">
            <thead>
              <tr>
                <th class="th">Name</th>
                <th class="th">Called</th>
                <th class="th">May</th>
                <th class="th"><span class="sr-only">Actions</span></th>
              </tr>
            </thead>
            <tbody>
              <PersonRow
                v-for="p in data.people"
                :key="p.name + p.role + p.active + p.fullName"
                :person="p"
                @changed="load"
                @failed="m => (error = m)"
              />
            </tbody>
          </table>
          <form class="mt-4 flex flex-wrap items-end gap-2" @submit.prevent="add">
            <label
              ><span class="label mb-1 block">Name</span
              ><input
                v-model="fresh.name"
                class="input w-32 font-mono"
                required
                pattern="[a-z][a-z0-9._\-]*"
                placeholder="mira"
            /></label>
            <label
              ><span class="label mb-1 block">Called</span
              ><input
                v-model="fresh.fullName"
                class="input w-44"
                required
                maxlength="100"
                placeholder="Mira Holt"
            /></label>
            <label
              ><span class="label mb-1 block">May</span
              ><select v-model="fresh.role" class="input">
                <option>keeper</option>
                <option>builder</option>
                <option>reader</option>
              </select></label
            >
            <button class="btn btn-main">Add</button>
          </form>
        </div>
        <ul v-else-if="data" class="sheet">
          <li v-for="p in data.people" :key="p.name" class="border-b border-line px-3 py-1.5">
            {{ p.fullName }} <span class="text-ink2">{{ p.role }}</span>
          </li>
        </ul>
        <section v-if="keeps && data?.log.length" aria-labelledby="people-log" class="mt-8">
          <h2 id="people-log" class="mb-2 text-lg">What happened</h2>
          <table class="w-full">
            <tbody>
              <tr v-for="(e, i) in data.log" :key="i">
                <td class="td w-44 whitespace-nowrap text-ink2">{{ time(e.at) }}</td>
                <td class="td">
                  <b>{{ e.name }}</b> {{ e.what }}
                  <span v-if="e.by !== e.name" class="text-ink2">by {{ e.by }}</span>
                </td>
              </tr>
            </tbody>
          </table>
        </section>
      </div>
      <OwnPassword />
    </div>
  </div>
</template>
