import type { CutListInput } from '../calculate/cut-list'
import type { Report } from '../report/report'
import { placeNames, standsAt } from '../installation/building'
import type { Coil } from '../job/coil'
import type { Installation } from '../installation/installation'
import { formatSize } from '../base/format'
import { cableNames } from '../region/vocabulary'

/** A cable to be cut for its way. */
export interface Piece {
  readonly id: string
  readonly name: string
  readonly circuit: string
  /** Kind and size, as its circuit is designed; null while the size is not known. */
  readonly cable: string
  readonly size: string | null
  readonly lengthM: number
}

/** What is to be cut: each cable whose way was taken, as long as the way asks for. */
export function piecesOf(job: Installation, report: Pick<Report, 'byCircuit'>): readonly Piece[] {
  const names = placeNames(job)
  return job.record.cables.flatMap((k): Piece[] => {
    const of = k.circuit === null ? undefined : report.byCircuit.get(k.circuit)
    if (!k.route || !of) return []
    const { design, result } = of.chosen
    const [from, to] = [k.from, k.to].map((end) => names.get(standsAt(job.record, end)) || 'its end')
    const lengthM = Math.ceil(k.route.cutM * 100) / 100
    return [
      {
        id: k.id,
        name: `${from} to ${to}`,
        circuit: k.circuit!,
        cable: k.type ?? design.cable,
        size: k.size ?? result?.size ?? null,
        lengthM,
      },
    ]
  })
}

/** One kind and size of cable, as lists are kept of it. */
export const reelOf = ({ cable, size }: { readonly cable: string; readonly size: string | null }): string => `${cable} ${size}`
export const reelWords = ({ cable, size }: { readonly cable: string; readonly size: string | null }): string =>
  `${size === null ? 'size not known' : formatSize(size)}, ${cableNames[cable] ?? cable}`

/**
 * What the cutting is worked out from: lengths of the job, and those of the van. Where one price is not known, lengths stand for all: the
 * least is bought.
 */
export function cuttingOf(
  job: Installation,
  pieces: readonly Piece[],
  van: readonly Coil[] = [],
): { readonly input: CutListInput; readonly priced: boolean } {
  const sized = pieces.filter((p) => p.size !== null)
  const wanted = new Set(sized.map(reelOf))
  const coils = [...van, ...(job.coils ?? [])].filter((c) => wanted.has(reelOf(c)))
  const priced = coils.every((c) => c.onHand || c.price !== null)
  return {
    priced,
    input: {
      pieces: sized.map((p) => ({ id: p.id, cable: reelOf(p), lengthM: p.lengthM })),
      stock: coils.map((c) => ({
        id: c.id,
        cable: reelOf(c),
        lengthM: c.lengthM,
        price: priced ? (c.price ?? 0) : c.lengthM,
        ...(c.onHand ? { onHand: true } : {}),
      })),
    },
  }
}
