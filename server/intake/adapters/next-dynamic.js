// Stands for a framework's way to load a component later: loaded by the library that draws.
import { createElement, lazy, Suspense } from 'react'

export default function dynamic(load, { loading } = {}) {
  const Loaded = lazy(async () => {
    const got = await (typeof load === 'function' ? load() : load.loader())
    return { default: got.default ?? got }
  })
  return props =>
    createElement(
      Suspense,
      { fallback: loading ? createElement(loading) : null },
      createElement(Loaded, props),
    )
}
