import { useDebounceFn, useEventListener, useIntervalFn } from '@vueuse/core'
import { computed, onScopeDispose, watch, type Ref } from 'vue'
import { useRoute } from 'vue-router'
import { ask, clientId, POST } from '../../api/client'
import { useWorkspace } from '../../use/workspace'

/** Tells the others where one is on the bench, and gives where they are. */
export function usePresence(doc: Ref<string>, selected: Ref<string>) {
  const ws = useWorkspace()
  const route = useRoute()
  const others = computed(() => ws.others.filter(o => o.doc === doc.value))
  const where = () => ({
    client: clientId,
    doc: route.name === 'bench' ? doc.value : '',
    element: selected.value,
  })
  // One at a time: one that is overtaken would tell where one was.
  let telling: Promise<unknown> = Promise.resolve()
  const tell = useDebounceFn(() => {
    if (ws.connected)
      telling = telling.then(() => ask(POST('/api/here', { body: where() })).catch(() => undefined))
  }, 200)
  watch([doc, selected], tell, { immediate: true })
  useIntervalFn(tell, 15_000)
  const leave = () => {
    void fetch('/api/here', {
      method: 'POST',
      keepalive: true,
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ client: clientId, doc: '' }),
    }).catch(() => undefined)
  }
  onScopeDispose(leave)
  useEventListener(window, 'pagehide', leave)
  return others
}
