'use client'
import { defaultRangeExtractor, useVirtualizer } from '@tanstack/react-virtual'
import { type FocusEvent, type Ref, type RefObject, useEffect, useLayoutEffect, useRef, useState } from 'react'

/** From so many rows on a list is windowed: fewer are drawn sooner than the window is worked out. */
const LONG = 80
/** Rows that are drawn above and below those in sight. */
const OVERSCAN = 12

function scrollerOf(of: HTMLElement | null): HTMLElement | null {
  for (let at = of?.parentElement ?? null; at; at = at.parentElement) if (/auto|scroll/.test(getComputedStyle(at).overflowY)) return at
  return document.documentElement
}

/** Whether the page is about to be printed: on paper all rows are drawn. */
function usePrinting(): boolean {
  const [printing, setPrinting] = useState(false)
  useEffect(() => {
    const [before, after] = [() => setPrinting(true), () => setPrinting(false)]
    window.addEventListener('beforeprint', before)
    window.addEventListener('afterprint', after)
    return () => {
      window.removeEventListener('beforeprint', before)
      window.removeEventListener('afterprint', after)
    }
  }, [])
  return printing
}

/** The rows of a long list that are drawn, and the room that the others take in pixels. */
export interface Windowed {
  /** Each with the room above it that rows which are not drawn take. */
  readonly rows: readonly { readonly nth: number; readonly above: number }[]
  readonly after: number
  /** For each row that is drawn, which carries `data-index` with its number. */
  readonly measure: Ref<HTMLElement> | undefined
  /** For the list: the row that has the focus stays. */
  readonly onFocus: (e: FocusEvent<HTMLElement>) => void
}

const all = (count: number): Windowed['rows'] => Array.from({ length: count }, (_, nth) => ({ nth, above: 0 }))

/** A list of which only what is in sight is drawn, where it is long; `list` is the element that holds the rows. */
export function useWindowed(count: number, list: RefObject<HTMLElement | null>, rowPx: number): Windowed {
  const printing = usePrinting()
  const long = count > LONG && !printing
  const focused = useRef<number | null>(null)
  const [scrollMargin, setMargin] = useState(0)
  // oxlint-disable-next-line react/incompatible-library -- nothing here is memoized: what it gives is used in this render alone
  const virtual = useVirtualizer({
    count,
    enabled: long,
    getScrollElement: () => scrollerOf(list.current),
    estimateSize: () => rowPx,
    overscan: OVERSCAN,
    scrollMargin,
    initialRect: { width: 0, height: 900 },
    rangeExtractor: (range) => {
      const rows = defaultRangeExtractor(range)
      const kept = focused.current
      return kept === null || kept >= count || rows.includes(kept) ? rows : [...rows, kept].toSorted((a, b) => a - b)
    },
  })
  // What is above the list may grow: where it begins is looked at whenever something in the page does.
  useLayoutEffect(() => {
    const [at, scroller] = [list.current, scrollerOf(list.current)]
    if (!long || !at || !scroller) return
    const look = () => setMargin(Math.round(at.getBoundingClientRect().top - scroller.getBoundingClientRect().top + scroller.scrollTop))
    look()
    const watching = new ResizeObserver(look)
    for (const child of scroller.children) watching.observe(child)
    return () => watching.disconnect()
  }, [long, list])
  const onFocus = (e: FocusEvent<HTMLElement>) => {
    const row = (e.target as Element).closest<HTMLElement>('[data-index]')
    focused.current = row ? Number(row.dataset.index) : null
  }
  if (!long) return { rows: all(count), after: 0, measure: undefined, onFocus }
  const items = virtual.getVirtualItems()
  const last = items.at(-1)
  return {
    rows: items.map((item, i) => ({ nth: item.index, above: item.start - (items[i - 1]?.end ?? scrollMargin) })),
    after: last ? virtual.getTotalSize() - (last.end - scrollMargin) : 0,
    measure: virtual.measureElement,
    onFocus,
  }
}
