/** The parts of the handover pack, in their order; a summary and the contents come before them. */
export const packParts = [
  { id: 'asked', name: 'What was asked and found' },
  { id: 'done', name: 'What was done, and why' },
  { id: 'routes', name: 'Plan, walls and routes' },
  { id: 'chart', name: 'Circuit chart' },
  { id: 'design', name: 'Design summary' },
  { id: 'boxes', name: 'Boxes' },
  { id: 'wiring', name: 'Wiring sheets' },
  { id: 'materials', name: 'Materials' },
  { id: 'isolation', name: 'Isolation' },
  { id: 'certificate', name: 'Certificate entries' },
  { id: 'tests', name: 'Test results' },
  { id: 'photographs', name: 'Photographs' },
  { id: 'watch', name: 'Not changed, and what to watch for' },
  { id: 'changes', name: 'What changed since it was last signed' },
  { id: 'workings', name: 'Annex: every figure worked out' },
] as const
export type PackPart = (typeof packParts)[number]['id']

/** All but what hangs at the work while it is done, and tells nobody more afterwards. */
export const usualParts: readonly PackPart[] = packParts.map((p) => p.id).filter((id) => id !== 'wiring')
