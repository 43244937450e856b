export { ActionButton } from './ActionButton'
export * from './Empty'
