import type { Alternative } from '@/core/choose/alternatives'

/** "12.40 more": what something else comes to against what is planned, and whose figures that uses. */
export const moreWords = ({ more, usual }: Pick<Alternative, 'more' | 'usual'>): string => {
  if (more === null) return 'not known'
  const by = Math.abs(more).toFixed(2)
  const words = Math.abs(more) < 0.005 ? 'as much' : more > 0 ? `${by} more` : `${by} less`
  return usual ? `${words}, usual figures` : words
}
