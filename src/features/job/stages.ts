import type { StageId } from '@/core/stages'

/** The stages in the order of the work, as the strand names them. */
export const stageNames: Record<StageId, string> = {
  brief: 'Brief',
  survey: 'Survey',
  circuit: 'Circuit',
  boxes: 'Boxes',
  wiring: 'Wiring',
  test: 'Test',
  handover: 'Handover',
}

/** The key that goes to each stage, pressed after G. */
export const stageKeys: Record<StageId, string> = {
  brief: 'b',
  survey: 's',
  circuit: 'c',
  boxes: 'x',
  wiring: 'w',
  test: 't',
  handover: 'h',
}
