import { openApi } from '@/server/openapi'

/** The HTTP interface, for programs that use it. */
export function GET(): Response {
  return Response.json(openApi())
}
