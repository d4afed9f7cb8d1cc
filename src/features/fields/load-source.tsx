import { loadSources } from '@/core/job/point'
import type { Point } from '@/core/installation/installation'
import { type Option, SelectField } from '@/ui/fields'

type Source = NonNullable<Point['wattsFrom']>
const names: Record<Source, string> = { nameplate: 'Read off its plate', measured: 'Measured', assumed: 'Assumed' }
const options: Option<Source | '?'>[] = [{ value: '?', label: 'Not recorded' }, ...loadSources.map((s) => ({ value: s, label: names[s] }))]

/** How the load of a point is known. */
export const LoadSourceField = ({ value, onCommit }: { value: Source | null; onCommit: (from: Source | null) => void }) => (
  <SelectField label="Load known from" value={value ?? '?'} options={options} onCommit={(v) => onCommit(v === '?' ? null : v)} />
)
