'use client'
import { useSearchParams } from 'next/navigation'
import { type ComponentType, useEffect, useRef, useState } from 'react'
import { useWorded } from './worded'
import { Alive } from './alive'

/** One stage in several sheets: the names along the top, one sheet in front; which one is in the address. */
export function Sheets<Id extends string>({
  of,
  tabs,
  views,
  first,
}: {
  of: string
  tabs: readonly { readonly id: Id; readonly name: string }[]
  views: Readonly<Record<Id, ComponentType>>
  first: Id
}) {
  const worded = useWorded()
  const inAddress = useSearchParams().get('sheet')
  // A sheet touched while the address is still on its way to this stage is not lost with the address.
  const [touched, setTouched] = useState<Id | null>(null)
  useEffect(() => setTouched(null), [inAddress])
  const current = tabs.find((t) => t.id === (touched ?? inAddress)) ?? tabs.find((t) => t.id === first)!
  const View: ComponentType = views[current.id]
  const bar = useRef<HTMLElement>(null)
  // On a phone the names are more than fit: the one in front is brought into sight.
  useEffect(() => {
    const tab = bar.current?.querySelector<HTMLElement>('[aria-current]')
    if (bar.current && tab) bar.current.scrollLeft = tab.offsetLeft - (bar.current.clientWidth - tab.clientWidth) / 2
  }, [current.id])
  return (
    <Alive className="flex min-h-0 flex-1 flex-col print:!block">
      <nav
        ref={bar}
        aria-label={`Sheets of the ${of}`}
        className="no-print relative flex shrink-0 gap-px overflow-x-auto border-b border-rule bg-paper px-4 pt-2 max-md:px-2"
      >
        {tabs.map((t) => (
          <button
            key={t.id}
            type="button"
            aria-current={t.id === current.id ? 'page' : undefined}
            onClick={() => {
              setTouched(t.id)
              // The way back goes to the sheet before, and from the first one out of the stage.
              const address = new URLSearchParams(window.location.search)
              address.set('sheet', t.id)
              if (t.id !== current.id) window.history.pushState(null, '', `?${address}`)
            }}
            className={
              'tap shrink-0 border border-b-0 px-3 ' +
              (t.id === current.id ? 'border-ink bg-sheet font-bold' : 'border-transparent text-ink-2 hover:bg-wash')
            }
          >
            {worded(t.name)}
          </button>
        ))}
      </nav>
      <View />
    </Alive>
  )
}
