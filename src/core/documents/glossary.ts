import { sentence } from '../job/part'
import { inRegion } from '../region/spelling'
import { type RegionId, regionIds } from '../region/types'
import type { Vocabulary } from '../region/vocabulary'
import { worlds } from '../region/worlds'

/* The words of the application, as each world says them: read from what the screens and papers use, so that it cannot differ from them. */

/** A word of the application. Its name in a world is a word of that world's vocabulary, or a common one as it is put there. */
interface Entry {
  readonly word: keyof Vocabulary | { readonly common: string }
  readonly means: string
}

const entries: readonly Entry[] = [
  { word: 'board', means: 'The enclosure where circuits begin, with their overcurrent devices.' },
  { word: 'space', means: 'The position of one overcurrent device in it.' },
  { word: { common: 'sub-board' }, means: 'A further one, fed from the first.' },
  { word: 'feeder', means: 'The circuit that feeds it.' },
  { word: 'breaker', means: 'The overcurrent device of a circuit.' },
  { word: 'rcd', means: 'The device that trips on current that does not come back by its own conductors.' },
  { word: 'radial', means: 'A circuit that leads from point to point, with branches.' },
  {
    word: { common: 'point' },
    means: 'A place that a circuit serves: an outlet, a light, a switch, a fixed appliance, or a box of joints.',
  },
  { word: 'socketOutlet', means: 'The accessory an appliance is plugged into.' },
  { word: 'line', means: 'The conductor that is live to earth.' },
  { word: 'neutral', means: 'The conductor that carries the current back.' },
  { word: 'protective', means: 'The conductor that carries a fault to earth.' },
  { word: { common: 'earth' }, means: 'What it connects to; to connect to it.' },
  { word: 'cable', means: 'Conductors in one sheath, fixed in the building.' },
  { word: { common: 'route' }, means: 'The path of a cable through the building.' },
  { word: { common: 'section' }, means: 'A part of a cable under one condition: in the attic, in insulation, in conduit with others.' },
  { word: 'cord', means: 'The flexible cable of an appliance.' },
  { word: 'box', means: 'What an accessory or a joint is mounted in.' },
  { word: 'noggings', means: 'Timber between studs or joists that stiffens them.' },
  { word: { common: 'circuit map' }, means: 'The drawing of what feeds what, as it was traced.' },
  { word: { common: 'circuit chart' }, means: 'The list of circuits at the board’s door.' },
  { word: { common: 'outage' }, means: 'The time in which the power is off for the work.' },
  { word: { common: 'isolation card' }, means: 'What is opened, locked and proved dead before work, and who signed for it.' },
  { word: { common: 'materials' }, means: 'What is bought or brought for the work.' },
  { word: { common: 'quotation' }, means: 'The price given to a customer.' },
  { word: { common: 'finding' }, means: 'The outcome of a rule: OK, note, warning, error or unknown.' },
  { word: { common: 'option' }, means: 'One of the designs of a circuit that are compared.' },
  { word: { common: 'method' }, means: 'One of two accepted ways of working.' },
]

/** What a thing is called in a world. */
const calledIn = (region: RegionId, { word }: Entry): string => {
  if (typeof word === 'string') return worlds[region].words[word]
  // A label begins with a capital, and is put into a world's words as one.
  const label = inRegion(region, sentence(word.common))
  return label === sentence(word.common) ? word.common : label.charAt(0).toLowerCase() + label.slice(1)
}

/** The glossary, as `docs/glossary.md` has it. */
export function glossary(): string {
  const row = (cells: readonly string[]) => `| ${cells.join(' | ')} |`
  const names = regionIds.map((r) => worlds[r].words.name)
  return [
    '# Words',
    '',
    'One word for one thing, and the word of each world. Made by `npm run rules` from what the screens and papers use.',
    '',
    row([...names, 'What it is']),
    row([...names.map(() => '---'), '---']),
    ...entries.map((e) => row([...regionIds.map((r) => calledIn(r, e)), e.means])),
    '',
  ].join('\n')
}
