// What differs from version to version, of those that have no signals yet.
import 'zone.js'

export const provided = () => []
export const box = value => ({ get: () => value, set: next => (value = next) })
