import type { Edit } from '@/core/job/edits'

type Of<K extends Edit['kind']> = Extract<Edit, { kind: K; patch: unknown }>['patch']
/** What may be changed of a point, along a circuit its cable too. */
export type PatchOfPoint = Of<'circuit-point.set'> & Of<'point.set'>
export type PatchOfWall = Of<'wall.set'>
