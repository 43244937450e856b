import { inject, provide, type InjectionKey } from 'vue'
import type { Box, Ink, Patch, Props } from '../frame/messages'
import type { State } from '../frame/states'

export interface TileSpec {
  el: HTMLElement
  width: () => number
  larger?: () => boolean // may be drawn larger than it is
  centred?: () => boolean // stands in the middle of its tile
  shrink: () => number // of what the width alone would give, from 0 to 1
  theme: () => string
  live: () => boolean
  measure: boolean
  content: () => { html: string; props?: Props; state?: State; since?: Patch[] } | undefined
  drawn?: (height: number, boxes: Box[], token?: number) => void
  painted?: (token: number) => void
  go?: (to: string) => void
  held?: (name: string, value: unknown) => void // what a control holds now
  act?: (verb: string, to: string, on?: boolean) => void // what is not the elements' own affair
  lost?: () => void // a patch spoke of what is not drawn
  broken?: (message: string) => void // it cannot be drawn as it should be
  stateless?: () => void // nothing in it takes the state that was asked for
  inks?: (inks: Ink[]) => void
}

/** What a stage offers to the tiles on it. */
export interface Stage {
  add(id: string, tile: TileSpec): void
  remove(id: string): void
  /** Draws a tile anew from its content, which holds all that was patched. */
  refill(id: string): void
  /** Brings a drawn tile up to date; one that is not drawn yet has it in its content. */
  patch(id: string, patches: Patch[], token?: number): void
  layout(): void
}

const key: InjectionKey<Stage> = Symbol('stage')
export const provideStage = (stage: Stage) => provide(key, stage)
export const useStage = (): Stage => {
  const stage = inject(key)
  if (!stage) throw new Error('a live tile needs a stage round it')
  return stage
}
