import type { RegionId } from '../region/types'
import { regionIds } from '../region/types'

/** A matter in which good practice differs: what is asked, and the ways it is done; the first is followed where nothing is said. */
export interface School {
  readonly id: string
  readonly ask: string
  readonly why: string
  readonly options: readonly { readonly id: string; readonly words: string }[]
  readonly regions: readonly RegionId[]
}

const metric: readonly RegionId[] = ['united-kingdom', 'southern-africa']

export const schools = [
  {
    id: 'joints',
    ask: 'Joints are made with',
    why: 'Both hold where they are listed for the conductors in them.',
    options: [
      { id: 'either', words: 'Either kind of connector' },
      { id: 'lever', words: 'Lever connectors' },
      { id: 'twist', words: 'Twist-on connectors' },
    ],
    regions: regionIds,
  },
  {
    id: 'tails',
    ask: 'Conductor left in a box',
    why: 'The least that is allowed saves room in the box; a working length saves the next person’s temper.',
    options: [
      { id: 'minimum', words: 'The least that serves' },
      { id: 'working', words: 'A working length' },
    ],
    regions: regionIds,
  },
  {
    id: 'tape',
    ask: 'Tape round the terminals',
    why: 'Some wrap the sides of a device before it goes back; it is a habit, and no insulation is made good by it.',
    options: [
      { id: 'no', words: 'No' },
      { id: 'yes', words: 'Yes' },
    ],
    regions: regionIds,
  },
  {
    id: 'ground-pin',
    ask: 'Ground pin of a receptacle',
    why: 'By the cord it serves, so that it leaves downward without a sharp bend; else by habit.',
    options: [
      { id: 'cord', words: 'By the cord' },
      { id: 'up', words: 'Up' },
      { id: 'down', words: 'Down' },
    ],
    regions: ['north-america'],
  },
  {
    id: 'cooking',
    ask: 'Cooker-type loads stand',
    why: 'Behind the residual device a fault to the frame is cut off at once; ahead of it damp elements trip nothing.',
    options: [
      { id: 'behind', words: 'Behind the residual device' },
      { id: 'ahead', words: 'Ahead of it' },
    ],
    regions: metric,
  },
  {
    id: 'off',
    ask: 'For work on one circuit',
    why: 'The circuit alone, locked off and proved dead, leaves the rest in use; for work in the board the main goes off either way.',
    options: [
      { id: 'circuit', words: 'That circuit off' },
      { id: 'main', words: 'The main off' },
    ],
    regions: regionIds,
  },
] as const satisfies readonly School[]
export type SchoolId = (typeof schools)[number]['id']
export type Schools = Readonly<Record<string, string>>

export const schoolsFor = (region: RegionId): readonly School[] =>
  schools.filter((s) => (s.regions as readonly RegionId[]).includes(region))

/** Which way a job follows in a matter. */
export const followed = (chosen: Schools | undefined, id: SchoolId): string =>
  chosen?.[id] ?? schools.find((s) => s.id === id)!.options[0].id
