<script setup lang="ts">
import { ref } from 'vue'
import { ask, POST, type Schemas } from '../../api/client'
import { useCopy } from '../../use/copy'
import { useWorkspace } from '../../use/workspace'

/** A person as a keeper sees them: what they are called, what they may, whether they may
 * sign in. */
const props = defineProps<{ person: Schemas['StoreUser'] }>()
const emit = defineEmits<{ changed: []; failed: [message: string] }>()
const ws = useWorkspace()
const toClipboard = useCopy()
const full = ref(props.person.fullName)
const self = props.person.name === ws.data?.me.name

async function tell(call: () => Promise<unknown>) {
  try {
    await call()
    emit('changed')
  } catch (e) {
    full.value = props.person.fullName
    emit('failed', (e as Error).message)
  }
}
const keep = (role: string) =>
  tell(() =>
    ask(POST('/api/people', { body: { name: props.person.name, fullName: full.value, role } })),
  )
const rename = () => {
  if (full.value !== props.person.fullName) void keep(props.person.role)
}
const letIn = (active: boolean) =>
  tell(() => ask(POST('/api/people/active', { body: { name: props.person.name, active } })))
const link = () =>
  tell(async () => {
    const { path } = await ask(POST('/api/people/link', { body: { name: props.person.name } }))
    await toClipboard(location.origin + path, `A link that signs ${props.person.fullName} in once`)
  })
</script>

<template>
  <tr class="[&>td]:align-middle" :class="{ 'text-ink2': !person.active }">
    <td class="td font-mono">{{ person.name }}</td>
    <td class="td">
      <input
        v-model="full"
        class="input w-44"
        maxlength="100"
        :aria-label="`What ${person.name} is called`"
        @change="rename"
      />
    </td>
    <td class="td">
      <select
        class="input"
        :value="person.role"
        :disabled="self"
        :aria-label="`What ${person.fullName} may do`"
        :title="self ? 'Nobody changes their own role' : undefined"
        @change="keep(($event.target as HTMLSelectElement).value)"
      >
        <option value="keeper">keeper: kit, rules, people</option>
        <option value="builder">builder: screens</option>
        <option value="reader">reader</option>
      </select>
    </td>
    <td class="td whitespace-nowrap">
      <button
        v-if="person.active"
        class="btn btn-bare"
        :aria-label="`Copy a link that signs ${person.fullName} in once`"
        @click="link"
      >
        Link
      </button>
      <button
        v-if="!self"
        class="btn btn-bare"
        :aria-label="person.active ? `Let ${person.fullName} out` : `Let ${person.fullName} in`"
        @click="letIn(!person.active)"
      >
        {{ person.active ? 'Let out' : 'Let in' }}
      </button>
    </td>
  </tr>
</template>
