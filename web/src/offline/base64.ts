/** A file as text in base 64. */
export async function base64(b: Blob): Promise<string> {
  const bytes = new Uint8Array(await b.arrayBuffer())
  let text = ''
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000))
  return btoa(text)
}
