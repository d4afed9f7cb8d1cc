import type { DeviceKind, DeviceTerminal } from '../catalogue/devices'

export const terminalRoles = [
  'line',
  'line-2',
  'neutral',
  'protective',
  'switched-line',
  'common',
  'traveller',
  'load-line',
  'load-neutral',
  'other',
] as const
export type TerminalRole = (typeof terminalRoles)[number]

/** What a terminal of a device is for, in IEC terms. */
export function terminalRole({ pattern }: DeviceKind, t: DeviceTerminal): TerminalRole {
  if (pattern === 'two-way') return t.id === 'com' ? 'common' : t.takes?.role === 'pe' ? 'protective' : 'traveller'
  if (pattern === 'intermediate') return t.takes?.role === 'pe' ? 'protective' : 'traveller'
  if (pattern === 'fan-light' && t.takes === null) return 'switched-line'
  if (pattern === 'fan-overrun' && t.takes === null) return t.id === 'l' ? 'line' : 'switched-line'
  if (t.takes === null) return 'other'
  const { cable, role } = t.takes
  if (role === 'pe') return 'protective'
  if (role === 'switched-line') return 'switched-line'
  if (cable === 'load') return role === 'neutral' ? 'load-neutral' : 'load-line'
  return role === 'line' || role === 'line-2' || role === 'neutral' ? role : 'other'
}
