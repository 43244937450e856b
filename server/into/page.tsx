'use client'

import dynamic from 'next/dynamic'
import { notFound, usePathname } from 'next/navigation'

// They are drawn in the browser alone: there is their router.
const Screens = dynamic(() => import('MODULE'), { ssr: false })

function Missing(): never {
  notFound()
}

export default function Page() {
  return <Screens at={usePathname()} missing={<Missing />} />
}
