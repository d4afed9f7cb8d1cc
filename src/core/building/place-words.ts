import type { Part } from './steps'
import type { WayKind } from './ways'
import { sides } from './house'

/* Places that a route goes through: as they are named in a record, and as they are said. */

const kindWords: Readonly<Record<WayKind, string>> = {
  cavity: 'inside a wall',
  stud: 'across studs',
  corner: 'round a corner inside the wall',
  'top-plates': 'through top plates',
  nogging: 'past a block between studs',
  'ceiling-hole': 'through a ceiling',
  'sole-plate': 'through a sole plate',
  'floor-hole': 'through a floor',
  storey: 'up a storey inside a wall',
  partition: 'through a partition',
  attic: 'attic',
  crawl: 'crawl space',
  'ceiling-void': 'above a suspended ceiling',
  'into-void': 'up past a tile',
  'void-wall': 'through a wall above its ceiling',
  surface: 'on the face',
  'surface-corner': 'round a corner on the face',
  emerge: 'out of a wall',
  cabinets: 'behind base cabinets',
  'wall-hole': 'through a solid wall',
  outside: 'along the outside',
  'outside-corner': 'round a corner outside',
  'out-hole': 'through a wall to the outside',
}
/** How a place is named in a record: its kind, its room, and its side or what is beyond it. */
export const partName = (p: Pick<Part, 'kind' | 'room' | 'side' | 'beyond'>): string =>
  `${p.kind} ${
    p.room === null
      ? p.kind
      : p.side === null
        ? `${p.room} ceiling`
        : p.beyond === null
          ? `${p.room} ${p.side}`
          : sides.some((s) => s === p.beyond)
            ? `${p.room} ${p.side} to ${p.beyond}`
            : `${p.room} to ${p.beyond}`
  }`

/** The names of things in place of their ids, where an id is a word of its own. */
export const withNames = (words: string, names: ReadonlyMap<string, string>): string =>
  words.replaceAll(/[\p{L}\p{N}_-]+/gu, (word) => (word.length > 3 ? (names.get(word) ?? word) : word))

/** The first id that a text begins with; of ids that begin alike the longest. */
const beginning = (text: string, ids: Iterable<string>): string | undefined =>
  [...ids].filter((id) => text === id || text.startsWith(`${id} `)).toSorted((a, b) => b.length - a.length)[0]

/** A place as a record names it, in the words of the job. @param names of rooms by their ids */
export function placeWords(name: string, names: ReadonlyMap<string, string>): string {
  const kind = beginning(name, Object.keys(kindWords)) as WayKind | undefined
  const where = kind ? name.slice(kind.length).trim() : name
  if (kind && (where === '' || where === kind)) return kindWords[kind]
  const room = beginning(where, names.keys())
  const rest = room === undefined ? where : where.slice(room.length).trim()
  const [, side, beyond] = /^(north|east|south|west|ceiling)?(?:\s*to (.+))?$/.exec(rest) ?? []
  const said = [
    room === undefined ? '' : names.get(room),
    side && (side === 'ceiling' ? side : beyond && isSide(beyond) ? `${side} to ${beyond} wall` : `${side} wall`),
  ]
    .filter(Boolean)
    .join(', ')
  const to = beyond && !isSide(beyond) ? ` to ${names.get(beyond) ?? beyond}` : ''
  const words = side || beyond ? `${said}${to}` : [said, rest].filter(Boolean).join(', ')
  return kind ? `${kindWords[kind]}: ${words}` : words
}
const isSide = (word: string): boolean => sides.some((s) => s === word)
