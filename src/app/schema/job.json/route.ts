import { z } from 'zod'
import { jobFileSchema } from '@/core/job/schema'

/** The JSON Schema of a Job file, for programs that read or write one. */
export function GET(): Response {
  return Response.json(z.toJSONSchema(jobFileSchema))
}
