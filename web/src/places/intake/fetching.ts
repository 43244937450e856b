import { useIntervalFn } from '@vueuse/core'
import { computed, ref, shallowRef } from 'vue'
import { ask, GET, type Schemas } from '../../api/client'

/** Which fetching somebody waits for in this window, wherever they are in it; 0 for none. */
let followed = 0

/** The registries that are allowed, and the library that is fetched from one, followed to its end:
 * whether or not anybody looks at it, how it ended is told once. */
export function useFetching(ended: (is: Schemas['ApiFetching']) => unknown) {
  const data = shallowRef<Schemas['ApiRegistriesOut']>()
  const error = ref('')
  const now = computed(() => data.value?.fetching)
  const running = computed(() => now.value?.state === 'running')

  const { pause, resume } = useIntervalFn(load, 700, { immediate: false })
  async function load() {
    try {
      take(await ask(GET('/api/registries')))
    } catch (e) {
      pause()
      error.value = (e as Error).message
    }
  }
  function take(out: Schemas['ApiRegistriesOut']) {
    data.value = out
    if (running.value) {
      followed = now.value!.id
      resume()
      return
    }
    pause()
    if (now.value?.id !== followed) return
    followed = 0
    ended(now.value)
  }
  /** One was begun here: it is followed even where it ended at once. */
  const begun = (id: number) => {
    followed = id
    return load()
  }
  return { data, error, now, running, load, take, begun }
}
export type Fetching = ReturnType<typeof useFetching>
