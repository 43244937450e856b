import type { Box } from '../../../core/geometry/measure.js'

/** Messages between the application and its sandboxed frame. What comes from the
 * frame is a hint about what is drawn, never an edit. */
import type { components } from '../api/schema'
import type { State } from './states'

export type Patch = components['schemas']['RenderPatch']
export type Props = Record<string, Record<string, unknown>>

export interface TilePlace {
  id: string
  x: number
  y: number
  w: number
  h: number
  scale: number
  width: number
  theme: string
  live: boolean
  centred?: boolean
}
export interface TileContent {
  id: string
  html: string
  props?: Props
  state?: State
  since?: Patch[] // taken since the html was rendered
}
/** A colour of letters on a ground that occurs in a tile. */
export interface Ink {
  keys?: string[] // of elements whose letters they are, the first 50
  ink: string
  ground: string
  ratio: number
  large: boolean
  sample: string
}
/** Where an element stands, how much wider what stands in it is, and whether a frame
 * scrolls it where it reaches past what it stands in. */
export type { Box }

/** What a team adds to the kit: themes and fonts as a style sheet, icons by name, and
 * the name of the module's function that takes those. */
export interface Dress {
  css: string
  icons: Record<string, string>
  add: string
}

export type ToFrame =
  | { type: 'init'; styles: string[]; go: string }
  | ({ type: 'dress' } & Dress)
  | { type: 'place'; tiles: TilePlace[] }
  | { type: 'fill'; tile: TileContent; measure: boolean }
  | { type: 'patch'; id: string; patches: Patch[]; measure: boolean; token?: number }
  | { type: 'inks'; id: string }
  | { type: 'drop'; ids: string[] }

export type FromFrame =
  /** It is the kit's page that was connected to, and no other. */
  | { type: 'here' }
  | { type: 'ready' }
  | { type: 'drawn'; id: string; height: number; boxes: Box[]; token?: number }
  | { type: 'painted'; id: string; token: number }
  | { type: 'inks'; id: string; inks: Ink[] }
  | { type: 'go'; id: string; to: string }
  | { type: 'act'; id: string; verb: string; to: string; on?: boolean }
  | { type: 'held'; id: string; name: string; value: unknown }
  | { type: 'stateless'; id: string }
  | { type: 'lost'; id: string }
  | { type: 'broken'; id: string; message: string }
  | { type: 'failed'; message: string }
