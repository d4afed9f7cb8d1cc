/** Ways are looked for in a worker of the page. */
export const beginWays = () => new Worker(new URL('../../workers/route.ts', import.meta.url), { type: 'module' })

export const minutes = (m: number): string => (m < 90 ? `${Math.round(m)} min` : `${Math.floor(m / 60)} h ${Math.round(m % 60)} min`)
