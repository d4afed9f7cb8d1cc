'use client'
import { useFaults } from './use-faults'

/** Nobody waits for it: where no worker arrives, nothing is tried. */
const nothing = () => ({ campaign: null, known: null })
/**
 * What the plan of tests would not notice, tried while somebody tests: one line, and the way to all of it. It comes with the tests and not
 * after them: what is fetched later does not arrive in a cellar.
 */
export function Unnoticed() {
  const { found } = useFaults('effects', nothing)
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
