import { z } from 'zod'

/*
 * Version 3 kept with each point the box it stood in. A box is a thing of its own since, in which several points may be; each of these
 * points is in one alone, called by the same id. Nothing else differs.
 */

const boxOfPoint = z.strictObject({
  kind: z.unknown(),
  internalClamps: z.unknown(),
  supportFittings: z.unknown(),
  others: z.unknown(),
})
/** A job of version 3, as far as it differs: the rest is held against the schema of today once it is brought up. */
export const jobOfVersion3 = z.looseObject({
  points: z.array(
    z.looseObject({
      id: z.string(),
      room: z.unknown(),
      wall: z.unknown(),
      overhead: z.unknown().optional(),
      heightMm: z.unknown(),
      hidden: z.unknown(),
      box: boxOfPoint,
      done: z.unknown(),
      bench: z.unknown().optional(),
      mount: z.unknown().optional(),
    }),
  ),
})

/** A job of version 3 with a box for each of its points. */
export function withBoxes(job: z.infer<typeof jobOfVersion3>): Record<string, unknown> {
  const boxes: unknown[] = []
  const points = job.points.map(({ room, wall, overhead, heightMm, hidden, box, done, bench, mount, ...point }) => {
    const seldom = Object.entries({ overhead, bench, mount }).filter(([, value]) => value !== undefined)
    boxes.push({ id: point.id, room, wall, heightMm, hidden, ...box, done, ...Object.fromEntries(seldom) })
    return { ...point, box: point.id }
  })
  return { ...job, boxes, points }
}
