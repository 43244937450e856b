// The texts of the screens, from the files beside: one a language, by keys that say where they
// stand. They are ICU messages.

import { IntlMessageFormat } from 'intl-messageformat'
import written from '../texts/{{.Written}}.json'

/** The keys of all texts. */
export type TextKey = keyof typeof written

/** The languages that there are texts in; they are written in the first. */
export const languages = [{{.Languages}}] as const
export type Language = (typeof languages)[number]

type Texts = Readonly<Partial<Record<TextKey, string>>>
const others: Partial<Record<Language, () => Promise<{ default: Texts }>>> = {
{{- range .Others}}
  {{.Key}}: () => import('../texts/{{.ID}}.json'),
{{- end}}
}

/** Where a choice of language is kept. */
const kept = 'language'

/** The language of the screens: the one chosen here before, else the first of the browser's that
 * there are texts in. */
export const language: Language = chosen()

function chosen(): Language {
  const base = (tag: string) => tag.toLowerCase().split('-')[0]
  for (const tag of [localStorage.getItem(kept), ...navigator.languages]) {
    const is =
      languages.find(l => l === tag) ?? languages.find(l => tag !== null && base(l) === base(tag))
    if (is) return is
  }
  return languages[0]
}

/** Speaks another language from now on: the page is loaded anew. */
export function speak(next: Language): void {
  localStorage.setItem(kept, next)
  location.reload()
}

let texts: Texts = written
const loaded = load()

async function load(): Promise<void> {
  document.documentElement.lang = language
  document.documentElement.dir = {{.RightToLeft}}
  const other = others[language]
  if (other) texts = (await other()).default
}

/** A module, once its texts are there. */
export async function spoken<M>(module: Promise<M>): Promise<M> {
  await loaded
  return module
}

// Numbers come as the screens write them; a plural takes all of their digits.
const formatters = {
  getNumberFormat: () =>
    new Intl.NumberFormat('en', { useGrouping: false, maximumFractionDigits: 20 }),
  getDateTimeFormat: () => new Intl.DateTimeFormat(),
  getPluralRules: () => new Intl.PluralRules(language, { maximumFractionDigits: 20 }),
}

const messages = new Map<TextKey, IntlMessageFormat>()

function messageOf(key: TextKey): IntlMessageFormat {
  const read = (text: string) =>
    new IntlMessageFormat(text, language, undefined, { ignoreTag: true, formatters })
  let message = messages.get(key)
  if (!message) {
    try {
      message = read(texts[key] ?? written[key])
    } catch (error) {
      console.error(`The text ${key} cannot be read`, error)
      message = read(written[key])
    }
    messages.set(key, message)
  }
  return message
}

/** What a text says, with what is put into it. */
export function t(
  key: TextKey,
  values: Readonly<Record<string, string | number | boolean | undefined>> = {},
): string {
  const put = Object.entries(values).map(([name, value]) => [name, value ?? ''])
  return String(messageOf(key).format(Object.fromEntries(put)))
}

/** The title of a screen, by its key; what is no key is the title itself. */
export const titleOf = (key: string): string => (key in written ? t(key as TextKey) : key)
