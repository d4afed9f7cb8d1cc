import path from 'node:path'
import { Piscina } from 'piscina'

/** A piece of text where it stands on its page, in points from the upper left. */
export interface TextBox {
  readonly text: string
  readonly page: number
  readonly x: number
  /** Its base line. */
  readonly y: number
  readonly width: number
  readonly size: number
}
export interface PaperText {
  readonly pages: readonly { readonly width: number; readonly height: number }[]
  readonly boxes: readonly TextBox[]
  readonly title: string
  /** A BCP 47 tag. */
  readonly language: string
  /** The bookmarks, in their order. */
  readonly outline: readonly string[]
}

const reader = new Piscina<Uint8Array, PaperText>({ filename: path.resolve('tests/support/pdf-text.mjs'), maxThreads: 1 })

/** Reads a paper's text back, each piece with its place. */
export const textOf = (body: Uint8Array | string): Promise<PaperText> => reader.run(Buffer.from(body))

/** Each page's lines from the top, a line's pieces in order, as a reader sees them. */
export const linesOf = ({ pages, boxes }: PaperText): readonly (readonly string[])[] =>
  pages.map((_, i) => {
    const lines = new Map<number, TextBox[]>()
    for (const b of boxes.filter((t) => t.page === i + 1)) {
      const near = [...lines.keys()].find((y) => Math.abs(y - b.y) < 2) ?? b.y
      lines.set(near, [...(lines.get(near) ?? []), b])
    }
    return [...lines]
      .toSorted(([p], [q]) => p - q)
      .map(([, line]) =>
        line
          .toSorted((p, q) => p.x - q.x)
          .map((t) => t.text)
          .join(' '),
      )
  })
