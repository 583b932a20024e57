import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex } from '@noble/hashes/utils.js'

/** Up to this size the browser hashes at once, which is fastest; larger files piece by piece, bytes. */
const AT_ONCE = 64 * 1024 ** 2
const PIECE = 4 * 1024 ** 2

/** SHA-256 of a file or text, in hexadecimal. */
export async function shaOf(data: Blob | string): Promise<string> {
  const blob = typeof data === 'string' ? new Blob([data]) : data
  if (blob.size <= AT_ONCE)
    return bytesToHex(new Uint8Array(await crypto.subtle.digest('SHA-256', await blob.arrayBuffer())))
  const hash = sha256.create()
  for (let at = 0; at < blob.size; at += PIECE)
    hash.update(new Uint8Array(await blob.slice(at, at + PIECE).arrayBuffer()))
  return bytesToHex(hash.digest())
}
