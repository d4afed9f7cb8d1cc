import type { Installation } from '@/core/installation/installation'

/** A point or a board with where it is; a point is where its box is. */
export function standingOf({ record }: Pick<Installation, 'record'>, what: 'point' | 'board', id: string) {
  if (what === 'board') return record.boards.find((b) => b.id === id)
  const point = record.points.find((p) => p.id === id)
  return record.boxes.find((b) => b.id === point?.box)
}
