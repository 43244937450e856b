// Stands for a framework's link where there is no application around it: a plain link.
import { createElement, forwardRef } from 'react'

export default forwardRef(function Link(
  { href, as, replace, scroll, shallow, prefetch, passHref, legacyBehavior, locale, ...rest },
  ref,
) {
  const to = typeof href === 'string' ? href : (href?.pathname ?? '#')
  return createElement('a', { ...rest, href: to, ref })
})
export const useLinkStatus = () => ({ pending: false })
