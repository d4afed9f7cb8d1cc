'use client'
import { useFaults } from './use-faults'

/** What the plan of tests would not notice, tried while somebody tests: one line, and the way to all of it. */
export default function Unnoticed() {
  const { found } = useFaults('effects')
  const tried = found?.campaign?.tried
  if (!tried || tried.length === 0) return null
  const passing = tried.filter((t) => t.caughtBy.length === 0 && t.effect !== 'unseen')
  const dangerous = passing.filter((t) => t.effect === 'dangerous').length
  const worst = dangerous > 0 ? `, ${dangerous} of them dangerous` : ''
  return (
    <p>
      {passing.length === 0
        ? `Each of ${tried.length} single mistakes that does something would be caught by these tests.`
        : `${passing.length} of ${tried.length} single mistakes would pass all of these tests${worst}.`}{' '}
      <button type="button" className="btn no-print" onClick={() => window.history.pushState(null, '', '?sheet=mistakes')}>
        Look at them
      </button>
    </p>
  )
}
