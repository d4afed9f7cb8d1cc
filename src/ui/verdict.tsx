import { Fragment, type Ref, useRef } from 'react'
import { verdictGlyph } from '@/core/drawing/glyph'
import type { Finding, Severity } from '@/core/base/finding'
import { Shapes } from './drawing'
import { useWindowed, type Windowed } from './windowed'
import { useWorded } from './worded'

const words: Record<Severity | 'met', string> = { error: 'Error', warning: 'Warning', unknown: 'Unknown', note: 'Note', met: 'Met' }

/** Shape, hue and word; the word is for those who do not see the other two. An empty label: words are next to it already. */
export function VerdictMark({ of, size = 18, label }: { of: Severity | 'met'; size?: number; label?: string }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="-10 -10 20 20"
      {...(label === '' ? { 'aria-hidden': true } : { role: 'img', 'aria-label': label ?? words[of] })}
      className="shrink-0"
    >
      <Shapes shapes={verdictGlyph(of, 0, 0)} />
    </svg>
  )
}

/** Where a finding is answered: what the link says, and what following it does. */
export interface FindingLink {
  readonly words: string
  readonly follow: () => void
}
export type LinkOf<F extends Finding> = (finding: F) => FindingLink | null

interface OfItem<F extends Finding> {
  readonly finding: F
  readonly linkOf: LinkOf<F> | undefined
  readonly nth: number
  readonly measure: Windowed['measure']
}
function FindingItem<F extends Finding>({ finding, linkOf, nth, measure }: OfItem<F>) {
  const link = linkOf?.(finding)
  const worded = useWorded()
  return (
    <li ref={measure as Ref<HTMLLIElement>} data-index={nth} className="flex gap-2 border-b border-rule py-2 last:border-0">
      <VerdictMark of={finding.severity} size={20} />
      <div className="min-w-0">
        <p>
          <span className="sr-only">{words[finding.severity]}: </span>
          {worded(finding.message)}
        </p>
        <p className="mt-0.5 text-[0.85rem] text-ink-2">{finding.clause}</p>
        {link && (
          <button type="button" className="no-print mt-0.5 tap text-left underline" onClick={link.follow}>
            {worded(link.words)}
          </button>
        )}
      </div>
    </li>
  )
}

/** About as high as a finding is. */
const FINDING_PX = 96
const order: Severity[] = ['error', 'warning', 'unknown', 'note']

export function FindingList<F extends Finding>({ findings, empty, linkOf }: { findings: readonly F[]; empty: string; linkOf?: LinkOf<F> }) {
  const worded = useWorded()
  const list = useRef<HTMLUListElement>(null)
  const { rows, after, measure, onFocus } = useWindowed(findings.length, list, FINDING_PX)
  if (findings.length === 0) return <p className="text-ink-2">{worded(empty)}</p>
  const sorted = findings.toSorted((a, b) => order.indexOf(a.severity) - order.indexOf(b.severity))
  return (
    <ul ref={list} aria-label="Findings" onFocus={onFocus}>
      {rows.map(({ nth, above }) => (
        <Fragment key={`${sorted[nth]!.rule}-${nth}`}>
          {above > 0 && <li aria-hidden style={{ height: above }} />}
          <FindingItem finding={sorted[nth]!} linkOf={linkOf} nth={nth} measure={measure} />
        </Fragment>
      ))}
      {after > 0 && <li aria-hidden style={{ height: after }} />}
    </ul>
  )
}
