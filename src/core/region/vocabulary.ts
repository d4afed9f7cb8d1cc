/** The job's own words. Code keeps the IEC term (the key); the screen says the value. */
export interface Vocabulary {
  readonly name: string
  readonly board: string
  readonly breaker: string
  /** A circuit of one run with branches, and one that goes to a distant board. */
  readonly radial: string
  readonly feeder: string
  /** The place of one breaker in a board, and two of them. */
  readonly space: string
  readonly spaces: string
  readonly rcd: string
  /** What is between studs, to stiffen them. */
  readonly noggings: string
  readonly socketOutlet: string
  readonly line: string
  readonly neutral: string
  readonly protective: string
  readonly protectiveVerb: string
  readonly cable: string
  readonly cord: string
  readonly box: string
  readonly paper: 'LETTER' | 'A4'
  /** The language of what is printed, as a BCP 47 tag. */
  readonly language: 'en-US' | 'en-GB' | 'en-ZA'
  readonly nominal: string
}

/** How a run may be described on screen, by method key; metric worlds only. */
export const methodNames: Readonly<Record<string, string>> = {
  'ceiling-insulation-to-100mm': 'On a ceiling, under up to 100 mm of insulation (100)',
  'ceiling-insulation-over-100mm': 'On a ceiling, under more than 100 mm of insulation (101)',
  'stud-wall-insulated-touching': 'In an insulated stud wall, touching the lining (102)',
  'stud-wall-insulated-not-touching': 'In an insulated stud wall, clear of the lining (103)',
  'clipped-direct': 'Clipped direct (C)',
  'conduit-in-insulated-wall': 'In conduit in an insulated wall (A)',
  'conduit-on-wall': 'In conduit on a wall (B)',
  A1: 'Singles in conduit in an insulated wall (A1)',
  A2: 'Cable in conduit in an insulated wall (A2)',
  B1: 'Singles in conduit on a wall (B1)',
  B2: 'Cable in conduit on a wall (B2)',
  C: 'Clipped direct to a wall (C)',
}

/** Cable kinds on screen. */
export const cableNames: Readonly<Record<string, string>> = {
  'nm-b': 'NM-B non-metallic cable',
  'uf-b': 'UF-B underground feeder cable',
  'mc-thhn': 'MC metal-clad cable',
  'thwn-2': 'THWN-2 conductors in raceway',
  'twin-earth': 'Flat twin and earth',
  'flat-twin-earth': 'Flat twin with earth',
  singles: 'Single cores in conduit',
}
