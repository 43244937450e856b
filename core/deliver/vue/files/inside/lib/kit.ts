import type { ComponentPublicInstance } from 'vue'

/** What own code reaches of a component. */
export type InstanceOf<C> = C extends abstract new (...args: never) => infer I
  ? I
  : ComponentPublicInstance
/** What a component can be set to. */
export type SettingsOf<C> = C extends abstract new (...args: never) => { $props: infer P }
  ? Partial<P> & Record<string, unknown>
  : Record<string, unknown>
