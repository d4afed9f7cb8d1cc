import { inRegion } from '../region/spelling'
import { type RegionId, regionIds } from '../region/types'
import { worlds } from '../region/worlds'

/** A kind of fault that inspection reports name, the usual cure, and the clause it rests on. */
export interface DefectKind {
  readonly id: string
  readonly name: string
  readonly cure: string
  /** What turning it into work puts into the job. */
  readonly makes: 'point' | 'circuit' | 'box' | 'nothing'
  readonly clause: Readonly<Record<RegionId, string>>
  /** Words that betray the kind in a report; the kind with most of them is proposed. */
  readonly signs: readonly RegExp[]
}

const clauses = (na: string, uk: string, za: string) => ({
  'north-america': na,
  'united-kingdom': uk,
  'southern-africa': `SANS 10142-1 ${za}`,
})
const kind = (
  id: string,
  name: string,
  makes: DefectKind['makes'],
  cure: string,
  clause: DefectKind['clause'],
  ...signs: RegExp[]
): DefectKind => ({ id, name, cure, makes, clause, signs })

export const defectKinds: readonly DefectKind[] = [
  kind(
    'cord-as-wiring',
    'Flexible cord used as fixed wiring',
    'point',
    'Take the cord out and put an outlet near the appliance, in fixed wiring.',
    clauses('400.12', '521.9', 'flexible cords'),
    /\b(extension|flexible|trailing)\s*(cord|lead|cable|flex)?/i,
    /\b(cord|flex)\b.*\b(fixed|permanent|wiring|through|under)/i,
    /\bextension\b/i,
  ),
  kind(
    'no-residual',
    'Outlet without residual current protection',
    'nothing',
    'Put the circuit behind a residual current device, or fit an outlet that has its own.',
    clauses('210.8; 406.4(D)', '411.3.3', 'earth leakage protection of socket-outlets'),
    /\b(no|not|without|lack\w*|absen\w*|missing)\b.*\b(rcd|gfci|residual|earth leakage)/i,
    /\b(rcd|gfci|residual|earth leakage)\b.*\b(missing|absent|not|none|no)\b/i,
  ),
  kind(
    'residual-fails',
    'Residual current device that does not trip in time',
    'nothing',
    'Replace the device and test its trip time and button again.',
    clauses('210.8; maker’s instructions', '643.8', 'test of earth leakage units'),
    /\b(rcd|gfci|earth leakage)\b.*\b(trip time|fail|slow|does not trip|not trip|faulty|seized)/i,
    /trip time/i,
  ),
  kind(
    'buried-joint',
    'Joint that cannot be reached',
    'box',
    'Bring the joint into a box with a blank cover that can be reached, labelled; or take it out.',
    clauses('314.29; 300.15', '526.3', 'accessibility of joints'),
    /\b(buried|hidden|concealed|inaccessible|plastered)\b.*\b(joint|junction|box|splice|connection)/i,
    /\b(joint|junction|splice)\b.*\b(buried|hidden|concealed|inaccessible|above|behind)/i,
  ),
  kind(
    'open-box',
    'Box or enclosure without its cover',
    'nothing',
    'Fit a cover that closes it, fastened, with the right openings blanked.',
    clauses('314.25', '416.2; 526.5', 'enclosures'),
    /\b(cover|lid|blank)\b.*\b(missing|absent|off|broken|no)/i,
    /\b(open|uncovered|no cover|missing cover)\b/i,
  ),
  kind(
    'joint-no-box',
    'Joint without an enclosure',
    'box',
    'Make the joint again in a box with clamps and a cover.',
    clauses('300.15', '526.5', 'enclosure of joints'),
    /\b(joint|splice|connection|taped)\b.*\b(no|without|outside)\b.*\b(box|enclosure)/i,
    /\b(choc|taped|twisted)\b/i,
  ),
  kind(
    'no-earth',
    'Outlet without an earth',
    'circuit',
    'Run a protective conductor to it, or rewire from the board.',
    clauses('250.114; 406.4(D)(2)', '411.3.1.1', 'earthing of socket-outlets'),
    /\b(no|without|missing|absent|open)\b.*\b(earth|ground|cpc)\b/i,
    /\bungrounded|unearthed\b/i,
  ),
  kind(
    'earth-high',
    'Protective conductor of high resistance',
    'nothing',
    'Find and remake the poor joint; measure continuity again.',
    clauses('250.4(A)(5)', '643.2.1', 'continuity of the earth conductor'),
    /\b(earth|ground|cpc|protective)\b.*\b(high|resistance|continuity|poor|discontinu)/i,
  ),
  kind(
    'loop-high',
    'Earth fault loop too high for its breaker',
    'circuit',
    'Shorten or enlarge the cable, fit a smaller breaker, or cover it by a residual current device where the rules allow.',
    clauses('250.4(A)(5)', '411.4.4', 'earth fault loop impedance'),
    /\b(loop|zs)\b/i,
  ),
  kind(
    'reversed-polarity',
    'Line and neutral reversed',
    'nothing',
    'Isolate, open the point and the one before it, put line and neutral on their terminals; test polarity.',
    clauses('200.11; 406.4', '643.6', 'polarity'),
    /\b(polarity|reversed|transposed|swapped)\b/i,
  ),
  kind(
    'bare-live',
    'Live parts that can be touched',
    'nothing',
    'Make it safe at once: isolate. Close or replace what is broken before it is live again.',
    clauses('110.27', '416.1', 'protection against direct contact'),
    /\b(exposed|bare|accessible|touchable)\b.*\b(live|conductor|part|copper|terminal)/i,
    /\blive parts?\b/i,
  ),
  kind(
    'damaged-accessory',
    'Cracked, burnt or loose accessory',
    'point',
    'Replace it; look for the cause of the heat in its terminals and in the load.',
    clauses('110.12; 406.9', '421.1; 526.1', 'condition of accessories'),
    /\b(crack|broken|burn|scorch|melt|overheat|damaged|loose)\w*\b.*\b(socket|outlet|receptacle|plug|switch|accessor|plate|faceplate)/i,
    /\b(socket|outlet|receptacle|switch|faceplate)\b.*\b(crack|broken|burn|scorch|melt|overheat|damaged|loose)/i,
  ),
  kind(
    'damaged-cable',
    'Damaged cable',
    'circuit',
    'Replace the damaged length between two accessible boxes, or the run.',
    clauses('110.12(B)', '522.6; 522.8', 'condition of cables'),
    /\b(damaged|chafed|rodent|chewed|gnawed|nicked|perished|brittle)\b.*\b(cable|insulation|sheath|wiring)/i,
    /\b(cable|insulation|sheath)\b.*\b(damaged|chafed|rodent|chewed|gnawed|perished|brittle)/i,
  ),
  kind(
    'unsupported-cable',
    'Cable not fixed',
    'nothing',
    'Fix it at the distances its kind asks for, clear of heat and edges.',
    clauses('334.30', '522.8.4; 522.8.5', 'support of cables'),
    /\b(unsupported|not (fixed|clipped|supported|secured)|hanging|sagging|unclipped)\b/i,
  ),
  kind(
    'unprotected-cable',
    'Cable without protection where it can be struck',
    'nothing',
    'Sleeve or reroute it: conduit, a steel plate, or the prescribed zone.',
    clauses('300.4; 334.15', '522.6.202', 'mechanical protection'),
    /\b(mechanical|impact|nail|screw|unprotected)\b.*\b(protect|cable|damage)/i,
    /\boutside\b.*\bzones?\b/i,
  ),
  kind(
    'overfused',
    'Breaker or fuse too large for its cable',
    'circuit',
    'Fit the breaker the cable allows, or a larger cable for the load.',
    clauses('240.4', '433.1.1', 'overload protection'),
    /\b(overfused|over-?protected|oversized|too (large|big))\b.*\b(breaker|fuse|mcb)/i,
    /\b(breaker|fuse|mcb)\b.*\b(too (large|big|high)|oversized|exceeds)/i,
    /\b(conductor|cable)\b.*\b(too (small|thin)|undersized)/i,
  ),
  kind(
    'overloaded',
    'Circuit loaded beyond its rating',
    'circuit',
    'Add up its loads, and move part of them to another circuit.',
    clauses('210.23', '433.1', 'overload protection'),
    /\b(overload\w*|trips)\b/i,
  ),
  kind(
    'double-tap',
    'Two conductors under one terminal',
    'nothing',
    'Give each its own terminal, or join them to one tail in a connector.',
    clauses('110.14(A); 408.41', '526.2', 'terminations'),
    /\b(double[- ]tap\w*|two (conductors|wires|neutrals)|doubled)\b/i,
  ),
  kind(
    'loose-terminal',
    'Loose connection',
    'nothing',
    'Isolate, remake with sound copper, tighten to the marked torque, pull on it, check again.',
    clauses('110.14(D)', '526.1', 'terminations'),
    /\bloose\b.*\b(connection|terminal|termination|screw|wire|conductor)/i,
    /\b(connection|terminal)\w*\b.*\bloose\b/i,
  ),
  kind(
    'shared-neutral',
    'Neutral shared between circuits',
    'circuit',
    'Give each circuit its own neutral on the bar it belongs to; where two lines share one, tie their breakers.',
    clauses('200.4; 210.4(B)', '314.4', 'separation of neutrals'),
    /\b(shared|borrowed|common|crossed|mixed)\b.*\bneutral/i,
    /\bneutral\b.*\b(shared|borrowed|common|crossed|wrong bar)/i,
  ),
  kind(
    'no-labels',
    'Board not labelled, or labelled wrongly',
    'nothing',
    'Trace the circuits and put a dated schedule on the door.',
    clauses('408.4', '514.8; 514.9', 'marking of the distribution board'),
    /\b(label|schedule|legend|chart|marked|identification|directory)\w*\b/i,
  ),
  kind(
    'board-gaps',
    'Openings in the board',
    'nothing',
    'Close every unused opening with a blank made for the board.',
    clauses('110.12(A); 408.7', '416.2', 'enclosures'),
    /\b(opening|gap|knockout|blank\w*|hole)s?\b.*\b(board|panel|consumer unit|enclosure)/i,
    /\b(board|panel|consumer unit)\b.*\b(opening|gap|knockout|hole)/i,
  ),
  kind(
    'bonding',
    'Main bonding missing or too small',
    'nothing',
    'Bond water, gas and steel where they enter, in the size asked for, with clamps that can be reached.',
    clauses('250.104', '411.3.1.2; 544.1', 'bonding'),
    /\bbond\w*\b/i,
  ),
  kind(
    'no-electrode',
    'Earth electrode absent or poor',
    'nothing',
    'Stop and call a licensed person: the means of earthing comes before any other work.',
    clauses('250.50', '411.5; 542.2', 'earth electrode'),
    /\b(electrode|earth rod|ground rod)\b/i,
  ),
  kind(
    'aluminium',
    'Aluminium branch wiring',
    'nothing',
    'Stop and call a licensed person: connectors and devices must be listed for it, at every joint.',
    clauses('110.14; 406.3(C)', '526.2; maker’s instructions', 'aluminium conductors'),
    /\balumin(i)?um\b/i,
  ),
  kind(
    'rubber-cable',
    'Rubber or fabric covered cable',
    'circuit',
    'Test its insulation; plan its replacement, and add nothing to it.',
    clauses('110.12(B)', '641.5; 643.3', 'condition of cables'),
    /\b(rubber|fabric|cloth|vir|lead[- ]sheath\w*|knob)\b/i,
  ),
  kind(
    'wet-place',
    'Accessory not fit for a wet place',
    'point',
    'Replace it by one made for the place, with a cover that keeps water out while in use.',
    clauses('406.9', '512.2; 522.3', 'external influences'),
    /\b(wet|damp|outdoor|rain|weather\w*|water|ip\s?\d\d)\b/i,
  ),
  kind(
    'near-water',
    'Outlet too near a bath, shower or basin',
    'point',
    'Move it out of the zone, or take it out and close the box with a blank.',
    clauses('406.9(C)', '701.512.3', 'bath and shower zones'),
    new RegExp(
      String.raw`\b(near|close|within|metres?|feet|zone\s?\d)\b.*\b(bath|shower|basin|sink)` +
        String.raw`|\b(bath|shower|basin|sink)\b.*\b(too (near|close)|zone\s?\d)`,
      'i',
    ),
  ),
  kind(
    'no-isolation',
    'No means of isolation at fixed equipment',
    'point',
    'Fit an isolator within reach and sight of the equipment.',
    clauses('422.31; 430.102', '462; 537.2', 'isolation of fixed equipment'),
    /\b(isolat\w*|disconnect\w*)\b/i,
  ),
  kind(
    'few-outlets',
    'Too few outlets, adaptors in use',
    'circuit',
    'Add outlets where things stand; the spacing sheet shows where.',
    clauses('210.52', '553.1.7', 'socket-outlets'),
    /\b(too few|insufficient|adapt[oe]rs?|multi-?way|cube)\b/i,
  ),
  kind(
    'light-no-box',
    'Heavy fitting on a box not made for it',
    'box',
    'Fit a box or bracket rated for the weight, or for a fan.',
    clauses('314.27', '559.5.2', 'support of luminaires'),
    /\b(fan|luminaire|fixture|chandelier|fitting)\b.*\b(support|hung|hanging|box|bracket|falling|loose)/i,
  ),
  kind(
    'smoke-alarm',
    'Smoke alarm missing or on a switched leg',
    'circuit',
    'Feed it from a line that no wall switch opens.',
    clauses('760.41; local fire code', 'Building Regulations Approved Document B; verify the edition in force', 'local fire code'),
    /\bsmoke|fire alarm|detector\b/i,
  ),
]

/** Cures that only one world knows besides. */
const americanCures: Readonly<Record<string, string>> = { 'no-earth': ' A GFCI with its label may serve until then.' }
const inWords = new Map(
  regionIds.map((region) => [
    region,
    new Map(
      defectKinds.map((k) => [
        k.id,
        {
          ...k,
          name: inRegion(region, k.name),
          cure: inRegion(region, k.cure) + ((worlds[region].splitPhase && americanCures[k.id]) || ''),
        },
      ]),
    ),
  ]),
)

/** The kinds in the words of a world. */
export const defectKindsFor = (region: RegionId): DefectKind[] => [...inWords.get(region)!.values()]
export const defectKind = (region: RegionId, id: string | null): DefectKind | undefined =>
  id === null ? undefined : inWords.get(region)!.get(id)

/** The kind a report's words point to, or null where none of them does. */
export function sortDefect(words: string): string | null {
  const scored = defectKinds
    .map((k) => ({
      id: k.id,
      score: k.signs.filter((s) => s.test(words)).length / k.signs.length + k.signs.filter((s) => s.test(words)).length,
    }))
    .filter((x) => x.score > 0)
  return scored.toSorted((a, b) => b.score - a.score)[0]?.id ?? null
}
