import 'server-only'
import { openSync } from 'fontkit'
import { createRequire } from 'node:module'
import path from 'node:path'

const packages = path.dirname(
  path.dirname(createRequire(path.join(process.cwd(), 'package.json')).resolve('dejavu-fonts-ttf/package.json')),
)
const source = (name: string, file: string) => path.join(packages, '@fontsource', name, 'files', `${name}-${file}-normal.woff`)
const dejavu = (name: string) => path.join(packages, 'dejavu-fonts-ttf', 'ttf', `${name}.ttf`)
const hyperlegible = (cut: 'Next' | 'Mono', weight: string) =>
  path.join(
    packages,
    '@expo-google-fonts',
    `atkinson-hyperlegible-${cut.toLowerCase()}`,
    weight,
    `AtkinsonHyperlegible${cut}_${weight}.ttf`,
  )
const upright = (normal: string, bold = normal) => ({ normal, bold, italics: normal, bolditalics: bold })

/** The faces of every paper, by the name they go by in it. */
export const faces = {
  // Not packed, so that it need not be unpacked for each paper.
  Text: upright(hyperlegible('Next', '400Regular'), hyperlegible('Next', '700Bold')),
  Mono: upright(hyperlegible('Mono', '400Regular')),
  // Greek, mathematics and other scripts, which the first faces lack.
  Wide: upright(dejavu('DejaVuSans'), dejavu('DejaVuSans-Bold')),
  Signs: upright(source('noto-emoji', 'emoji-400')),
  // Every script of the basic plane, coarse but legible.
  Every: upright(source('unifont', 'latin-400')),
}
export type Face = keyof typeof faces

const opened = new Map<Face, ReturnType<typeof openSync>>()
const shown = new Map<Face, Map<string, boolean>>()
function holds(face: Face, sign: string): boolean {
  if (!opened.has(face)) {
    opened.set(face, openSync(faces[face].normal))
    shown.set(face, new Map())
  }
  const known = shown.get(face)!
  let held = known.get(sign)
  if (held === undefined) {
    const font = opened.get(face)!
    held = sign === '\n' || ('hasGlyphForCodePoint' in font && font.hasGlyphForCodePoint(sign.codePointAt(0)!))
    known.set(sign, held)
  }
  return held
}

/** Words in one face. */
export interface FaceRun {
  readonly text: string
  readonly face: Face
}

const plain = /^[ -~]*$/
/** Signs that each stand alone: letters of Europe, punctuation, mathematics. */
const single = /^[\n -\u02ff\u0370-\u0482\u2010-\u2027\u2030-\u205e\u2070-\u22ff]*$/
const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' })
const signsOf = (text: string): Iterable<string> => (single.test(text) ? text : Array.from(graphemes.segment(text), (g) => g.segment))
const spaceOrStop = /^[\s\p{P}]+$/u

const control = /\p{Cc}/gu
/** They only join or choose among signs, and have no look of their own. */
const joiners = /\p{Cf}|\p{Variation_Selector}/gu

/** What no face shows is written as its number, so that nothing typed goes unseen. */
const number = (sign: string): string =>
  [...sign].map((c) => `[U+${c.codePointAt(0)!.toString(16).toUpperCase().padStart(4, '0')}]`).join('')

/** Text in runs of the first face that shows all of each sign; words typed from right to left come in the order of the line. */
export function inFaces(text: string, first: 'Text' | 'Mono'): readonly FaceRun[] {
  if (plain.test(text)) return [{ text, face: first }]
  const chain: readonly Face[] = [first, 'Wide', 'Signs', 'Every']
  const runs: { text: string; face: Face }[] = []
  for (const written of signsOf(text)) {
    const sign = written === '\n' ? written : written.replace(joiners, '').replace(control, ' ')
    if (sign === '') continue
    const last = runs.at(-1)
    const shows = (face: Face) => (sign.length === 1 ? holds(face, sign) : [...sign].every((c) => holds(face, c)))
    // A space or a stop keeps to the face it is in.
    const keeps = last && spaceOrStop.test(sign) && !toLeft.test(last.text) && shows(last.face)
    const face = keeps ? last.face : chain.find(shows)
    if (last && last.face === (face ?? first)) last.text += face ? sign : number(sign)
    else runs.push({ text: face ? sign : number(sign), face: face ?? first })
  }
  return asRead(runs)
}

const toLeft = /[\p{Script=Hebrew}\p{Script=Arabic}]/u
/** Words written from right to left, one run each, come in the order of the line. */
function asRead(runs: readonly FaceRun[]): readonly FaceRun[] {
  const first = runs.findIndex((r) => toLeft.test(r.text))
  if (first < 0) return runs
  const after = runs.findIndex((r, i) => i > first && !toLeft.test(r.text) && !spaceOrStop.test(r.text))
  let end = after < 0 ? runs.length : after
  while (!toLeft.test(runs[end - 1]!.text)) end--
  return [...runs.slice(0, first), ...runs.slice(first, end).toReversed(), ...asRead(runs.slice(end))]
}
