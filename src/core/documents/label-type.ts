/* Type on labels: sizes in millimetres, and how wide a line comes out. */

/** Larger is not needed at arm’s length; below the last nothing is read. */
export const [LARGEST, READ_WELL, SMALLEST] = [6, 2.5, 1.8]
/** Distance between lines, in ems. */
export const LEADING = 1.25

/** Ems that a line is wide: a letter of the mono face is up to 0.68, signs of the east and pictures are square. */
export const ems = (line: string): number => [...line].reduce((sum, c) => sum + (c.codePointAt(0)! < 0x1100 ? 0.68 : 1), 0)
