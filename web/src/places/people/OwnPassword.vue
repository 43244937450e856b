<script setup lang="ts">
import { ref } from 'vue'
import { ask, POST } from '../../api/client'
import { useWorkspace } from '../../use/workspace'

/** Everybody changes their own password, knowing the old one. */
const ws = useWorkspace()
const old = ref('')
const next = ref('')
const error = ref('')
const done = ref(false)

async function change() {
  error.value = ''
  done.value = false
  try {
    await ask(POST('/api/people/password', { body: { old: old.value, new: next.value } }))
    old.value = next.value = ''
    done.value = true
  } catch (e) {
    error.value = (e as Error).message
  }
}
</script>

<template>
  <form aria-labelledby="own-password" @submit.prevent="change">
    <h2 id="own-password" class="mb-2 text-lg">Your password</h2>
    <input class="hidden" autocomplete="username" :value="ws.data?.me.name" aria-hidden="true" />
    <label class="mb-2 block">
      <span class="label mb-1 block">The old one</span>
      <input
        v-model="old"
        type="password"
        class="input w-full"
        autocomplete="current-password"
        placeholder="none was set yet"
      />
    </label>
    <label class="mb-2 block">
      <span class="label mb-1 block">The new one</span>
      <input
        v-model="next"
        type="password"
        class="input w-full"
        autocomplete="new-password"
        required
        minlength="12"
        aria-describedby="password-form"
      />
    </label>
    <p id="password-form" class="mb-2 text-ink2">
      At least 12 letters, some words that do not belong together. Your other windows are signed
      out.
    </p>
    <p v-if="error" role="alert" class="mb-2 text-rust">{{ error }}</p>
    <p v-if="done" role="status" class="mb-2 text-moss">The password is changed.</p>
    <button class="btn">Change it</button>
  </form>
</template>
