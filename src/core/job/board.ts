import { z } from 'zod'
import { breakerTypes } from '../region/types'
import { amount, idField, ratingA, residualTypes, states, text } from './fields'
import { addTo, EditError, edits, inList } from './part'

/** The one board every job begins with. */
export const MAIN_BOARD = 'main'

export const mainSwitches = ['double-pole', 'single-pole', 'none', 'unknown'] as const
/** A board. `fedFrom` is the way that feeds a sub-board; the main board has none. */
export const boardSchema = z.strictObject({
  id: idField,
  name: text(120),
  /** Spaces (NA) or modules for ways, null until counted. */
  spaces: z.int().min(1).max(84).nullable(),
  /** The spaces that somebody saw to be free; null: not looked at. A space is never free by being left over. */
  free: z.array(z.int().min(1).max(84)).max(84).nullable(),
  /** Rating of the main switch or breaker, in amperes. */
  mainA: ratingA.nullable(),
  mainSwitch: z.enum(mainSwitches),
  fedFrom: idField.nullable(),
  state: z.enum(states),
  /** Where it hangs along a wall, and how high its middle, once somebody measured it. */
  wall: z.strictObject({ wall: idField, atM: amount }).nullable().optional(),
  heightMm: amount.nullable().optional(),
})
export type Board = z.infer<typeof boardSchema>

/** A residual current device with ways, and a neutral bar, behind it. Null: not looked at. */
export const residualDeviceSchema = z.strictObject({
  id: idField,
  board: idField,
  name: text(80),
  ratingA: ratingA.nullable(),
  tripMa: z.number().positive().max(1000).nullable(),
  /** As marked on it: IEC 60755. */
  type: z.enum(residualTypes).nullable(),
  /** Time-delayed, as marked (S). */
  delayed: z.boolean().nullable(),
})
export type ResidualDevice = z.infer<typeof residualDeviceSchema>

export const wayKinds = ['circuit', 'feeder', 'source', 'spare'] as const
export const wayShapes = ['radial', 'ring', 'unknown'] as const
export const waySchema = z.strictObject({
  id: idField,
  board: idField,
  /** As found; trusted only once what it feeds is proved. Of a new way what was typed for it, where that is no space. */
  label: text(80),
  ratingA: ratingA.nullable(),
  poles: z.union([z.literal(1), z.literal(2)]),
  curve: z.enum(breakerTypes).nullable(),
  position: z.int().min(1).max(84).nullable(),
  /** Which half of a tandem breaker; null for one that has its space to itself. */
  half: z.enum(['a', 'b']).nullable(),
  kind: z.enum(wayKinds),
  shape: z.enum(wayShapes),
  /** Fed from upstream of the main switch, so live with it off. */
  ahead: z.boolean(),
  /** `none`, `own` (its breaker has one), `unknown`, or the id of the residual current device it is behind. */
  residual: idField,
  /** What is to be fitted in place of what was found there; none: it stays as it is. A way that is new is planned as a whole. */
  planned: z.strictObject({ residual: idField }).optional(),
  /** Neutral bar its neutral was found on: `main`, or the id of the device whose bar it is; null: not looked. */
  bar: idField.nullable(),
  state: z.enum(states),
})
export type Way = z.infer<typeof waySchema>

export const newBoard = (id: string, more: Partial<Board> = {}): Board => ({
  id,
  name: '',
  spaces: null,
  free: null,
  mainA: null,
  mainSwitch: 'unknown',
  fedFrom: null,
  state: 'existing',
  ...more,
})
export const newResidualDevice = (id: string, name: string, more: Partial<ResidualDevice> = {}): ResidualDevice => ({
  id,
  board: MAIN_BOARD,
  name,
  ratingA: null,
  tripMa: null,
  type: null,
  delayed: null,
  ...more,
})
export const newWay = (id: string, label: string, more: Partial<Way> = {}): Way => ({
  id,
  board: MAIN_BOARD,
  label,
  ratingA: null,
  poles: 1,
  curve: null,
  position: null,
  half: null,
  kind: 'circuit',
  shape: 'unknown',
  ahead: false,
  residual: 'unknown',
  bar: null,
  state: 'existing',
  ...more,
})

/** What a way may be behind without its having an id. */
export const unnamedResiduals: readonly string[] = ['none', 'own', 'unknown']

interface Doc {
  boards: Board[]
  residualDevices: ResidualDevice[]
  ways: Way[]
}
const edit = edits<Doc>()

function behindSomething({ residualDevices }: Doc, residual: string | undefined, path: string): void {
  if (residual !== undefined && !unnamedResiduals.includes(residual)) inList(residualDevices, residual, 'residual device', path)
}

function onSomeBar({ residualDevices }: Doc, bar: string | null | undefined, path: string): void {
  if (bar != null && bar !== 'main') inList(residualDevices, bar, 'neutral bar', path)
}

export const boardEdits = {
  'board.add': edit(
    { item: boardSchema },
    (job, { item }) => {
      addTo(job.boards, item, 'item.id')
      if (item.fedFrom) inList(job.ways, item.fedFrom, 'way', 'item.fedFrom').kind = 'feeder'
    },
    ({ item }) => `Board ${item.name || 'without a name'} added`,
  ),
  'board.set': edit(
    { id: idField, patch: boardSchema.omit({ id: true, state: true }).partial() },
    (job, { id, patch }) => {
      if (id === MAIN_BOARD && patch.fedFrom) throw new EditError('patch.fedFrom', 'The main board is fed from the supply.')
      if (patch.fedFrom) inList(job.ways, patch.fedFrom, 'way', 'patch.fedFrom')
      Object.assign(inList(job.boards, id, 'board'), patch)
    },
    ({ id, patch }, say) => `${say.name(id, 'Board')}: ${say.patch(patch)}`,
  ),
  'board.remove': edit(
    { id: idField },
    (job, { id }) => {
      if (id === MAIN_BOARD) throw new EditError('id', 'The main board stays.')
      if (inList(job.boards, id, 'board').state === 'new') throw new EditError('id', 'This board comes with its feeder: remove that.')
      job.ways = job.ways.filter((w) => w.board !== id)
      job.residualDevices = job.residualDevices.filter((d) => d.board !== id)
      job.boards = job.boards.filter((b) => b.id !== id)
    },
    ({ id }, say) => `${say.name(id, 'Board')} removed`,
  ),
  'residual-device.add': edit(
    { item: residualDeviceSchema },
    (job, { item }) => {
      inList(job.boards, item.board, 'board', 'item.board')
      addTo(job.residualDevices, item, 'item.id')
    },
    ({ item }) => `${item.name} added`,
  ),
  'residual-device.set': edit(
    { id: idField, patch: residualDeviceSchema.omit({ id: true, board: true }).partial() },
    (job, { id, patch }) => void Object.assign(inList(job.residualDevices, id, 'residual device'), patch),
    ({ id, patch }, say) => `${say.name(id, 'Residual device')}: ${say.patch(patch)}`,
  ),
  'residual-device.remove': edit(
    { id: idField },
    (job, { id }) => {
      inList(job.residualDevices, id, 'residual device')
      job.residualDevices = job.residualDevices.filter((d) => d.id !== id)
    },
    ({ id }, say) => `${say.name(id, 'Residual device')} removed`,
  ),
  'way.add': edit(
    { way: waySchema },
    (job, { way }) => {
      inList(job.boards, way.board, 'board', 'way.board')
      behindSomething(job, way.residual, 'way.residual')
      onSomeBar(job, way.bar, 'way.bar')
      addTo(job.ways, way, 'way.id')
    },
    ({ way }) => `Way ${way.label} added`,
  ),
  'way.set': edit(
    { id: idField, patch: waySchema.omit({ id: true, board: true, state: true }).partial() },
    (job, { id, patch }) => {
      behindSomething(job, patch.residual, 'patch.residual')
      onSomeBar(job, patch.bar, 'patch.bar')
      Object.assign(inList(job.ways, id, 'way'), patch)
    },
    ({ id, patch }, say) => `Way ${say.name(id)}: ${say.patch(patch)}`,
  ),
  'way.remove': edit(
    { id: idField },
    (job, { id }) => {
      inList(job.ways, id, 'way')
      job.ways = job.ways.filter((w) => w.id !== id)
    },
    ({ id }, say) => `Way ${say.name(id)} removed`,
  ),
  'ways.move': edit(
    {
      moves: z
        .array(z.strictObject({ id: idField, position: z.int().min(1).max(84) }))
        .min(1)
        .max(84),
    },
    (job, { moves }) => {
      for (const m of moves) inList(job.ways, m.id, 'way').position = m.position
    },
    ({ moves }, say) =>
      moves.length === 1 ? `${say.name(moves[0]!.id)} moved to ${moves[0]!.position}` : `${moves.length} breakers moved`,
  ),
}
