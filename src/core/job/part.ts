import { z } from 'zod'

/** An edit that cannot be made on this job; nothing has changed. */
export class EditError extends Error {
  constructor(
    readonly path: string,
    message: string,
  ) {
    super(message)
    this.name = 'EditError'
  }
}

/** How the history speaks: what an id is called, and a patch in words. */
export interface Say {
  readonly name: (id: string, other?: string) => string
  readonly patch: (patch: object) => string
  /** The fields of a patch without their values. */
  readonly fields: (patch: object) => string
  /** "(Kiln)" where the job has more than one circuit; else nothing. */
  readonly ofCircuit: (id: string) => string
  readonly value: (key: string, value: unknown) => string
}

type Carried<S extends z.core.$ZodLooseShape> = z.output<z.ZodObject<S, z.core.$strict>>

/** One kind of edit as data: what it carries, what it does to the parts of the document it touches, how it is described. */
export interface EditKind<S extends z.core.$ZodLooseShape = z.core.$ZodLooseShape, D = never> {
  readonly shape: S
  readonly apply: (doc: D, edit: Carried<S>) => void
  readonly tell: (edit: Carried<S>, say: Say, doc: D) => string
}

/** Declares a kind of edit on the parts `D` of the document. */
export const edits =
  <D>() =>
  <S extends z.core.$ZodLooseShape>(
    shape: S,
    apply: (doc: D, edit: Carried<S>) => void,
    tell: (edit: Carried<S>, say: Say, doc: D) => string,
  ): EditKind<S, D> => ({ shape, apply, tell })

export function inList<T extends { id: string }>(list: readonly T[], id: string, what: string, path = 'id'): T {
  const found = list.find((x) => x.id === id)
  if (!found) throw new EditError(path, `This ${what} is no longer in the job.`)
  return found
}

export function addTo<T extends { id: string }>(list: T[], item: T, path: string): void {
  if (list.some((x) => x.id === item.id)) throw new EditError(path, 'There is one with this id already.')
  list.push(item)
}

export const sentence = (s: string): string => s.charAt(0).toUpperCase() + s.slice(1)
