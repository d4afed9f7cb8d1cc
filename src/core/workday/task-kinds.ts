/** Kinds of task that a design asks for, in the order they are done at a circuit. */
export const taskKinds = ['bore', 'pull', 'run', 'close', 'remove', 'box', 'fit', 'board', 'dead', 'live', 'label', 'clear'] as const
export type TaskKind = (typeof taskKinds)[number]
