import clsx from 'clsx'
import type { CSSProperties, ReactNode } from 'react'
import { useWorded } from './worded'

/** A column's heading; a pair where it wants a width or an alignment of its own, empty above a button. */
export type Head = string | readonly [words: ReactNode, className: string]

/** Headings as a row's own labels, for a narrow screen. */
const labels = (heads: readonly Head[]): CSSProperties =>
  Object.fromEntries(
    heads.flatMap((head, i) => {
      const words = typeof head === 'string' ? head : head[0]
      return typeof words === 'string' ? [[`--h${i + 1}`, JSON.stringify(words)]] : []
    }),
  )

interface Shown {
  readonly heads: readonly Head[]
  readonly minRem: number
  readonly label?: string
  readonly children: ReactNode
}

/** A ruled table that scrolls sideways by itself where the screen is narrower than `minRem`; on a phone each row is a card. */
export function Table({ heads: named, minRem, label, children }: Shown) {
  const worded = useWorded()
  const heads = named.map((head): Head => {
    if (typeof head === 'string') return worded(head)
    const [words, more] = head
    return [typeof words === 'string' ? worded(words) : words, more]
  })
  return (
    <div className="overflow-x-auto">
      <table
        className="cards w-full [&_td:not(:last-child)]:pr-3 [&_th:not(:last-child)]:pr-3"
        style={{ minWidth: `${minRem}rem`, ...labels(heads) }}
        aria-label={label}
      >
        <thead>
          <tr className="border-b border-ink text-left text-[0.85rem] text-ink-2">
            {heads.map((head, i) => {
              const [words, more] = typeof head === 'string' ? [head, undefined] : head
              const Cell = words === '' ? 'td' : 'th'
              return (
                <Cell key={i} className={clsx('py-1 font-normal first-letter:uppercase', more)}>
                  {words}
                </Cell>
              )
            })}
          </tr>
        </thead>
        <tbody>{children}</tbody>
      </table>
    </div>
  )
}
