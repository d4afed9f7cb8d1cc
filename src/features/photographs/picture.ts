import { MOST_BYTES, MOST_PX } from '@/core/verify/photograph'

/** What was chosen is no picture that this browser can read. */
export class NoPictureError extends Error {
  constructor(name: string) {
    super(`${name || 'What was chosen'} cannot be read as a picture here.`)
    this.name = 'NoPictureError'
  }
}

/** Good enough for a screw in a terminal; each tried until the file is small enough. */
const QUALITIES = [0.82, 0.6, 0.4]

const jpegOf = (canvas: HTMLCanvasElement, quality: number): Promise<Blob | null> =>
  new Promise((resolve) => canvas.toBlob(resolve, 'image/jpeg', quality))

const base64Of = (blob: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader()
    reader.addEventListener('load', () => resolve((reader.result as string).split(',')[1] ?? ''))
    reader.addEventListener('error', () => reject(reader.error))
    reader.readAsDataURL(blob)
  })

/**
 * A picture upright, no larger than is kept, as a JPEG in base 64. Redrawn, it says nothing of where it was taken or with what.
 * @throws NoPictureError
 */
export async function pictureOf(file: File): Promise<string> {
  const bitmap = await createImageBitmap(file, { imageOrientation: 'from-image' }).catch(() => null)
  if (!bitmap) throw new NoPictureError(file.name)
  const scale = Math.min(1, MOST_PX / Math.max(bitmap.width, bitmap.height))
  const canvas = document.createElement('canvas')
  canvas.width = Math.max(1, Math.round(bitmap.width * scale))
  canvas.height = Math.max(1, Math.round(bitmap.height * scale))
  canvas.getContext('2d')?.drawImage(bitmap, 0, 0, canvas.width, canvas.height)
  bitmap.close()
  for (const quality of QUALITIES) {
    const blob = await jpegOf(canvas, quality)
    if (blob && blob.size <= MOST_BYTES) return base64Of(blob)
  }
  throw new NoPictureError(file.name)
}
