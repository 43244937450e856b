import en from './locales/en.json'

export function t(key: string): string {
  return key.split('.').reduce<unknown>((o, k) => (o as Record<string, unknown>)?.[k], en) as string
}
