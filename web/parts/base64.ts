/** So many bytes are turned at once: more are too many arguments for a browser. */
const atOnce = 0x8000

/** Bytes as base64 (RFC 4648 4). */
export function base64Of(bytes: Uint8Array): string {
  const parts: string[] = []
  for (let from = 0; from < bytes.length; from += atOnce) {
    parts.push(String.fromCharCode(...bytes.subarray(from, from + atOnce)))
  }
  return btoa(parts.join(''))
}
