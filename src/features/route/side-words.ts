/** How a room lies to another. */
export const sideWords = { east: 'east of', west: 'west of', north: 'north of', south: 'south of', over: 'over or under' } as const
