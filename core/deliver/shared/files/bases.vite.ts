/// <reference types="vite/client" />
// Addresses that data comes from: the environment says others, as VITE_OFFICE does for the
// base "office". This file is yours: it was written once and is never written again.
const env = import.meta.env as Readonly<Record<string, unknown>>

export const baseOf = (name: string, usual: string): string => {
  const other = env[`VITE_${name.toUpperCase()}`]
  return typeof other === 'string' ? other : usual
}
