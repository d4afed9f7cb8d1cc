import type { Severity } from '../base/finding'
import type { Shape } from './shape'

/** The mark of a verdict, about 16 units across: known by shape first, by hue second. */
export function verdictGlyph(severity: Severity | 'met', x: number, y: number, part?: string): Shape[] {
  const p = part === undefined ? {} : { part }
  if (severity === 'error')
    return [{ kind: 'path', d: `M${x} ${y - 8}L${x + 9} ${y + 7}L${x - 9} ${y + 7}Z`, fill: 'error', stroke: 'error', width: 1.5, ...p }]
  if (severity === 'warning')
    return [
      { kind: 'path', d: `M${x} ${y - 9}L${x + 9} ${y}L${x} ${y + 9}L${x - 9} ${y}Z`, fill: 'sheet', stroke: 'warning', width: 2, ...p },
      { kind: 'path', d: `M${x - 5} ${y + 2}L${x + 2} ${y - 5}M${x - 3} ${y + 5}L${x + 5} ${y - 3}`, stroke: 'warning', width: 1.5, ...p },
    ]
  if (severity === 'unknown') return [{ kind: 'circle', x, y, r: 7.5, fill: 'none', stroke: 'ink', width: 1.8, dash: '3 2.4', ...p }]
  if (severity === 'note') return [{ kind: 'circle', x, y, r: 3.5, fill: 'ink', ...p }]
  return [{ kind: 'path', d: `M${x - 6} ${y}L${x - 1.5} ${y + 5}L${x + 7} ${y - 6}`, stroke: 'ink', width: 2.2, cap: 'round', ...p }]
}
