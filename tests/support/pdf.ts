import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs'

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
}

/** Reads a paper's text back, each piece with its place. */
export async function textOf(body: Uint8Array | string): Promise<PaperText> {
  const file = await getDocument({ data: new Uint8Array(Buffer.from(body)), verbosity: 0 }).promise
  const pages: { width: number; height: number }[] = []
  const boxes: TextBox[] = []
  for (let n = 1; n <= file.numPages; n++) {
    const page = await file.getPage(n)
    const { width, height } = page.getViewport({ scale: 1 })
    pages.push({ width, height })
    for (const item of (await page.getTextContent()).items) {
      if (!('str' in item) || item.str.trim() === '') continue
      const [a, b, , , x, y] = item.transform as number[]
      boxes.push({ text: item.str, page: n, x: x!, y: height - y!, width: item.width, size: Math.hypot(a!, b!) })
    }
  }
  await file.destroy()
  return { pages, boxes }
}

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
