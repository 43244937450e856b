<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ask, POST } from '../api/client'
import { useWorkspace } from '../use/workspace'

const ws = useWorkspace()
const route = useRoute()
const router = useRouter()
const name = ref('')
const password = ref('')
const error = ref('')
const busy = ref(false)

async function enter(how: () => Promise<unknown>) {
  busy.value = true
  error.value = ''
  try {
    await how()
    ws.signedOut = false
    await ws.load()
    const to = route.query.to
    await router.replace(
      typeof to === 'string' && to.startsWith('/') && !to.startsWith('//') ? to : '/',
    )
  } catch (e) {
    error.value = (e as Error).message
  } finally {
    busy.value = false
  }
}
onMounted(() => {
  const token = location.hash.slice(1)
  if (!token) return
  history.replaceState(history.state, '', location.pathname + location.search)
  void enter(() => ask(POST('/api/sign-in/link', { body: { token } }))).then(() => {
    if (error.value)
      error.value =
        'The link was used already or has expired. Sign in with your password, or start the server again for a new link.'
  })
})
</script>

<template>
  <div class="grid h-full place-items-center p-4">
    <form
      class="sheet w-full max-w-xs p-5"
      @submit.prevent="enter(() => ask(POST('/api/sign-in', { body: { name, password } })))"
    >
      <h1 class="mb-4 text-xl">Ubiquant</h1>
      <label class="mb-3 block"
        ><span class="label mb-1 block">Name</span
        ><input
          v-model="name"
          class="input w-full"
          name="username"
          autocomplete="username"
          required
      /></label>
      <label class="mb-4 block"
        ><span class="label mb-1 block">Password</span
        ><input
          v-model="password"
          type="password"
          class="input w-full"
          name="password"
          autocomplete="current-password"
          required
      /></label>
      <p v-if="error" role="alert" class="mb-3 text-rust">{{ error }}</p>
      <button class="btn btn-main w-full justify-center" :disabled="busy">Sign in</button>
      <p class="mt-4 text-ink2">The server prints a link that signs you in once.</p>
    </form>
  </div>
</template>
