import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { ask, GET, type Schemas } from '../api/client'
import type { Dress } from '../frame/messages'
import { useWorkspace } from './workspace'

/** What the team adds to the kit, for every frame: themes, fonts and icons that are
 * kept, and the theme "draft" while one is being made. */
export const useDress = defineStore('dress', () => {
  const ws = useWorkspace()
  const kept = shallowRef<Schemas['ApiDressOut']>()
  const draft = ref('')
  watch(
    () => ws.data?.dress,
    async hash => {
      if (!hash || hash === kept.value?.hash) return
      try {
        kept.value = await ask(GET('/api/dress'))
      } catch (e) {
        ws.say((e as Error).message)
      }
    },
    { immediate: true },
  )
  const message = computed<Dress>(() => ({
    css: (kept.value?.css ?? '') + draft.value,
    icons: { ...kept.value?.icons },
    add: kept.value?.add ?? '',
  }))
  return { draft, message }
})
