export function hear(
  root: ShadowRoot | Document | HTMLElement,
  find: (key: string) => Element | null,
  tell: (verb: string, to: string, on?: boolean) => void,
  refused: (text: string) => boolean,
): () => void
export function turned(themes: string, name: string, usual: string, on?: boolean): string
export function follow(
  root: ShadowRoot | Document | HTMLElement,
  tell: (name: string, value: unknown) => void,
): () => void
