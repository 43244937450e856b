// Stands for a framework's picture: a plain one.
import { createElement, forwardRef } from 'react'

export default forwardRef(function Image(
  {
    src,
    fill,
    priority,
    quality,
    placeholder,
    blurDataURL,
    loader,
    unoptimized,
    overrideSrc,
    ...rest
  },
  ref,
) {
  const style = fill
    ? { position: 'absolute', inset: 0, width: '100%', height: '100%', ...rest.style }
    : rest.style
  return createElement('img', { ...rest, style, src: src?.src ?? src, ref })
})
export const getImageProps = props => ({ props })
