import { largestFileBytes, largestPictureBytes } from '#core/model/letter.ts'
import { call, newCommandId } from '../app/api.ts'

const pictureTypes = ['image/png', 'image/jpeg', 'image/gif'] as const
const documentTypes = ['application/pdf'] as const

async function base64Of(file: File): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer())
  let binary = ''
  for (const byte of bytes) binary += String.fromCharCode(byte)
  return btoa(binary)
}

async function store(
  file: File,
  types: readonly (typeof pictureTypes | typeof documentTypes)[number][],
  most: number,
  wanted: string,
): Promise<string> {
  const type = types.find((one) => one === file.type)
  if (!type) throw new Error(`${file.name}: only ${wanted} can be sent.`)
  if (file.size > most)
    throw new Error(`${file.name} is larger than ${most / 1000} kB. Make it smaller first.`)
  const base64 = await base64Of(file)
  const { id } = await call('addFile', { body: { commandId: newCommandId(), name: file.name, type, base64 } })
  return id
}

/** Stores a picture for a letter; says why it cannot be taken. */
export const storePicture = (file: File) =>
  store(file, pictureTypes, largestPictureBytes, 'PNG, JPEG and GIF pictures')

/** Stores a file that is sent along. */
export const storeDocument = (file: File) => store(file, documentTypes, largestFileBytes, 'PDF files')
