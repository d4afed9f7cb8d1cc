/** The stages of the work in the order they are done. */
export const stageIds = ['brief', 'survey', 'circuit', 'boxes', 'wiring', 'test', 'handover'] as const
export type StageId = (typeof stageIds)[number]
