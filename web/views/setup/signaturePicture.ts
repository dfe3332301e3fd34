import { storePicture } from '../../parts/storeFile.ts'

/** How wide and high the picture of a signature is, in pixels. */
const side = 100

/** A picture cut to a square from its middle, made 100 × 100 and small, and stored. Says why it cannot be taken. */
export async function storeSignaturePicture(file: File): Promise<string> {
  const picture = await createImageBitmap(file).catch(() => {
    throw new Error(`${file.name} is no picture that can be read.`)
  })
  const canvas = document.createElement('canvas')
  canvas.width = canvas.height = side
  const shorter = Math.min(picture.width, picture.height)
  const [left, top] = [(picture.width - shorter) / 2, (picture.height - shorter) / 2]
  canvas.getContext('2d')?.drawImage(picture, left, top, shorter, shorter, 0, 0, side, side)
  picture.close()
  const small = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'))
  if (!small) throw new Error(`${file.name} could not be made smaller.`)
  return storePicture(new File([small], 'signature.png', { type: 'image/png' }))
}
