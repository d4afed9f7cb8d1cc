'use client'
import clsx from 'clsx'
import { ChevronDown, ChevronUp } from 'lucide-react'
import { createContext, type MouseEvent, type ReactNode, useContext, useEffect, useRef, useState, useSyncExternalStore } from 'react'
import { createPortal } from 'react-dom'
import { Alive } from './alive'
import { arrowsInTable } from './arrows'
import { useWorded } from './worded'

const PHONE = '(max-width: 767px)'
const onPhone = () => window.matchMedia(PHONE).matches
/** Parts of a drawing, and rows of what is listed, whose values are in the working. */
const OPENING = '[data-part], tbody [aria-pressed], [data-opens]'

const ActSlot = createContext<HTMLElement | null>(null)
/** What is done with what is in the working. On a phone it is below, and covers nothing that is scrolled. */
export function Act({ children }: { children: ReactNode }) {
  const slot = useContext(ActSlot)
  const narrow = useSyncExternalStore(phoneChanges, onPhone, () => false)
  if (!narrow || !slot) return <div className="mt-3">{children}</div>
  return createPortal(<div className="border-t-2 border-ink px-3 py-2">{children}</div>, slot)
}
function phoneChanges(changed: () => void): () => void {
  const query = window.matchMedia(PHONE)
  query.addEventListener('change', changed)
  return () => query.removeEventListener('change', changed)
}

/** Scrolls what was touched up over the half that is covered. */
function keepInSight(area: HTMLElement, touched: Element): void {
  const [box, within] = [touched.getBoundingClientRect(), area.getBoundingClientRect()]
  const room = window.innerHeight / 2 - within.top - 72
  if (box.bottom - within.top <= room) return
  // Once the room below it is there.
  requestAnimationFrame(() =>
    requestAnimationFrame(() => area.scrollBy({ top: Math.min(box.top - within.top, box.bottom - within.top - room) })),
  )
}

/**
 * What is pulled up on a phone goes down again by the way back, before the way back leaves the page. Gives what closes it, so that
 * closing it takes its step of the history away as well.
 */
function useBackCloses(up: boolean, setUp: (up: boolean) => void): () => void {
  const pushed = useRef(false)
  useEffect(() => {
    if (!up || !onPhone()) return
    window.history.pushState(null, '', window.location.href)
    pushed.current = true
    const back = () => {
      pushed.current = false
      setUp(false)
    }
    window.addEventListener('popstate', back)
    return () => window.removeEventListener('popstate', back)
  }, [up, setUp])
  return () => (pushed.current ? window.history.back() : setUp(false))
}

/**
 * The two areas of every stage: the drawing and the working, beside it or, where that is too narrow, below it. On a phone the
 * working is a sheet at the foot, above the strand, that is pulled up.
 */
export function Stage({
  drawing,
  working,
  title,
  sheet = 'Values and working',
  raised = false,
  about = null,
}: {
  drawing: ReactNode
  working: ReactNode
  title: string
  sheet?: string
  /** On a phone the working is pulled up from the start, whole or over the lower half. */
  raised?: boolean | 'half'
  /** What the stage is for, in a line, while nothing is in it. */
  about?: string | null
}) {
  const [up, setUp] = useState(raised !== false)
  /** Brought up by what was touched, over the lower half, so that it stays in sight above. */
  const [half, setHalf] = useState(raised === 'half')
  const close = useBackCloses(up, setUp)
  const area = useRef<HTMLElement>(null)
  const [slot, setSlot] = useState<HTMLElement | null>(null)
  const bringUp = (e: MouseEvent) => {
    const touched = (e.target as Element).closest(OPENING)
    if (!touched || !onPhone()) return
    setHalf(true)
    setUp(true)
    keepInSight(area.current!, touched)
  }
  return (
    <Alive className="flex min-h-0 flex-1 max-lg:flex-col low:!flex-row print:!block" onKeyDown={arrowsInTable}>
      <section
        ref={area}
        aria-label={`${title}: the drawing`}
        onClick={bringUp}
        className={clsx(
          'relative min-h-0 min-w-0 flex-1 overflow-auto p-4 max-md:p-3 print:!overflow-visible print:!p-0',
          up && half ? 'max-md:pb-[60dvh]' : 'max-md:pb-40',
        )}
      >
        {about && <p className="no-print mb-3 border-l-4 border-rule-2 pl-2 text-ink-2">{about}</p>}
        {drawing}
      </section>
      <aside
        aria-label={`${title}: the working`}
        className={clsx(
          'flex min-h-0 flex-col border-rule bg-sheet md:relative lg:w-[25rem] lg:border-l',
          // A tablet held upright has no room beside the drawing, and much below it.
          'md:max-lg:h-[42%] md:max-lg:shrink-0 md:max-lg:border-t-2 md:max-lg:border-ink',
          'low:!h-auto low:!w-[19rem] low:!border-t-0 low:!border-l low:!border-rule',
          'max-md:fixed max-md:inset-x-0 max-md:bottom-(--foot) max-md:z-10 max-md:border-t-2 max-md:border-ink ' +
            'max-md:shadow-[0_-4px_12px_rgb(0_0_0/0.15)]',
          'print:!static print:!mt-4 print:!block print:!h-auto print:!w-full print:!border-0 print:!shadow-none',
          up ? (half ? 'max-md:h-[50dvh]' : 'max-md:h-[72dvh]') : 'max-md:h-16 max-md:overflow-hidden',
        )}
      >
        <button
          type="button"
          aria-expanded={up}
          onClick={() => (up ? close() : (setHalf(false), setUp(true)))}
          className="flex h-16 w-full shrink-0 items-center justify-between px-3 font-bold md:hidden print:!hidden"
        >
          {sheet}
          {up ? <ChevronDown aria-hidden /> : <ChevronUp aria-hidden />}
        </button>
        <div
          // Scrolled by keyboard too, where nothing in it takes the focus.
          tabIndex={0}
          className={clsx(
            'relative min-h-0 flex-1 overflow-y-auto max-md:px-3 max-md:pb-6 md:p-4 low:!p-3',
            'print:!visible print:!overflow-visible print:!p-0',
            !up && 'max-md:invisible',
          )}
        >
          <ActSlot value={slot}>{working}</ActSlot>
        </div>
        <div ref={setSlot} className={clsx('shrink-0 md:hidden print:!hidden', !up && 'invisible')} />
      </aside>
    </Alive>
  )
}

export function Section({ title, children, aside }: { title: string; children: ReactNode; aside?: ReactNode }) {
  const worded = useWorded()
  return (
    <section className="mb-5">
      <div className="mb-1.5 flex items-baseline justify-between gap-2 border-b border-rule">
        <h2 className="text-[1rem]">{worded(title)}</h2>
        {aside}
      </div>
      {children}
    </section>
  )
}

export const FieldGrid = ({ children }: { children: ReactNode }) => <div className="grid grid-cols-2 gap-x-3 gap-y-2.5">{children}</div>
