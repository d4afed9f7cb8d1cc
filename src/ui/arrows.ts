import type { KeyboardEvent } from 'react'

const focusable = 'button:not([disabled]), input:not([disabled]), select:not([disabled]), a[href], [tabindex="0"]'

/** Up and down go from row to row of a table, to the same column; a row without it is passed over. */
export function arrowsInTable(e: KeyboardEvent): void {
  if ((e.key !== 'ArrowUp' && e.key !== 'ArrowDown') || e.altKey || e.ctrlKey || e.metaKey || e.defaultPrevented) return
  const from = e.target as HTMLElement
  // A list of choices keeps its arrows.
  if (from.matches('select, textarea, [role=radio], [role=option], [type=radio]')) return
  const row = from.closest('tr')
  const table = row?.closest('table')
  if (!row || !table) return
  const place = [...row.querySelectorAll<HTMLElement>(focusable)].indexOf(from)
  const rows = [...table.querySelectorAll('tbody tr')]
  const step = e.key === 'ArrowDown' ? 1 : -1
  for (let i = rows.indexOf(row) + step; i >= 0 && i < rows.length; i += step) {
    const there = [...rows[i]!.querySelectorAll<HTMLElement>(focusable)]
    const to = there[Math.min(place, there.length - 1)]
    if (!to) continue
    e.preventDefault()
    to.focus()
    return
  }
}

const directions = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] } as const

/** Of several places the nearest in the direction of an arrow, sideways counting double; null for another key, or where none is. */
export function nearest<T extends { readonly x: number; readonly y: number }>(key: string, from: T, among: readonly T[]): T | null {
  if (!(key in directions)) return null
  const [dx, dy] = directions[key as keyof typeof directions]
  const ahead = among.flatMap((to) => {
    const [along, aside] = [(to.x - from.x) * dx + (to.y - from.y) * dy, Math.abs((to.x - from.x) * dy) + Math.abs((to.y - from.y) * dx)]
    return along > 1 ? [{ to, far: along + 2 * aside }] : []
  })
  return ahead.toSorted((a, b) => a.far - b.far)[0]?.to ?? null
}
