/** A stage of the work, declared once: its name, the key that goes to it after G, what it is for, and its sheets. */
interface StageEntry {
  readonly id: string
  readonly name: string
  readonly key: string
  /** In one line, for a stage that has nothing in it yet. */
  readonly about: string
  readonly sheets: readonly { readonly id: string; readonly name: string }[]
}

/** The stages in the order they are done. */
export const stages = [
  { id: 'brief', name: 'Brief', key: 'b', about: 'What is asked for, what it powers, and what may stop the work.', sheets: [] },
  {
    id: 'survey',
    name: 'Survey',
    key: 's',
    about: 'The installation as found: board, points, and what feeds what.',
    sheets: [
      { id: 'board', name: 'Board' },
      { id: 'points', name: 'Points' },
      { id: 'trace', name: 'Trace' },
      { id: 'report', name: 'Report' },
      { id: 'walls', name: 'Walls' },
      { id: 'source', name: 'Source' },
      { id: 'time', name: 'Time' },
    ],
  },
  {
    id: 'circuit',
    name: 'Circuit',
    key: 'c',
    about: 'Breaker, cable and accessories that suit each other, and what stays as it is.',
    sheets: [
      { id: 'all', name: 'All circuits' },
      { id: 'this', name: 'This circuit' },
      { id: 'protection', name: 'Protection' },
      { id: 'raceways', name: 'Raceways' },
      { id: 'choices', name: 'Options' },
    ],
  },
  {
    id: 'route',
    name: 'Route',
    key: 'r',
    about: 'The building as measured, and the route of each cable through it.',
    sheets: [
      { id: 'house', name: 'Building' },
      { id: 'way', name: 'Cable route' },
      { id: 'cut', name: 'Cutting list' },
      { id: 'signal', name: 'Data and control' },
    ],
  },
  {
    id: 'boxes',
    name: 'Boxes',
    key: 'x',
    about: 'A box for each point, large enough for what meets in it, and held where it is.',
    sheets: [
      { id: 'size', name: 'Size' },
      { id: 'mount', name: 'In the wall' },
      { id: 'all', name: 'All boxes' },
    ],
  },
  {
    id: 'wiring',
    name: 'Wiring',
    key: 'w',
    about: 'Which conductor goes to which terminal, box by box.',
    sheets: [
      { id: 'order', name: 'Order of work' },
      { id: 'bench', name: 'Bench' },
    ],
  },
  {
    id: 'day',
    name: 'Day',
    key: 'd',
    about: 'Who does what when, what is switched off for it, the materials and what it costs.',
    sheets: [
      { id: 'plan', name: 'Plan' },
      { id: 'isolation', name: 'Isolation' },
      { id: 'needed', name: 'Materials' },
      { id: 'offer', name: 'Quotation' },
    ],
  },
  {
    id: 'test',
    name: 'Test',
    key: 't',
    about: 'Isolate, test dead, energise, test live; every reading kept.',
    sheets: [
      { id: 'tests', name: 'Tests' },
      { id: 'mistakes', name: 'Mistakes' },
      { id: 'fault', name: 'Find a fault' },
    ],
  },
  { id: 'handover', name: 'Handover', key: 'h', about: 'Papers, labels, and what is still open.', sheets: [] },
] as const satisfies readonly StageEntry[]
export type StageId = (typeof stages)[number]['id']

export const stageIds = stages.map((s) => s.id) as [StageId, ...StageId[]]
export const stageOf = (id: StageId): StageEntry => stages.find((s) => s.id === id)!
/** Sheets of one stage, by name. */
export type SheetId<Stage extends StageId> = Extract<(typeof stages)[number], { id: Stage }>['sheets'][number]['id']
export const sheetsOf = <Stage extends StageId>(id: Stage) =>
  stageOf(id).sheets as readonly { readonly id: SheetId<Stage>; readonly name: string }[]
