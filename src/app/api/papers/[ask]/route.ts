import { howFar } from '@/server/paper-pool'
import { route } from '@/server/respond'

/** How far a paper is that is being made: how many are made before it, and the part of it that is written. */
export const GET = route<{ params: Promise<{ ask: string }> }>(async (_, { params }) => howFar((await params).ask))
