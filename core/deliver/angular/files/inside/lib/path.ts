import { DestroyRef, inject, signal, type Signal } from '@angular/core'
import { NavigationEnd, Router } from '@angular/router'

const pathOf = (url: string) => url.split(/[?#]/)[0] ?? ''

/** The path that is shown. */
export function pathShown(): Signal<string> {
  const router = inject(Router)
  const path = signal(pathOf(router.url))
  const heard = router.events.subscribe(event => {
    if (event instanceof NavigationEnd) path.set(pathOf(event.urlAfterRedirects))
  })
  inject(DestroyRef).onDestroy(() => heard.unsubscribe())
  return path.asReadonly()
}
