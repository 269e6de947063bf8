/** Bytes as they stand in addresses: base64url without padding (RFC 4648 §5). */
export const toAddress = (bytes: Iterable<number>) =>
  btoa(String.fromCharCode(...bytes))
    .replaceAll('+', '-')
    .replaceAll('/', '_')
    .replaceAll('=', '')

/** The bytes that stand in an address; none where it is something else. */
export function fromAddress(said: string): number[] {
  try {
    return Array.from(atob(said.replaceAll('-', '+').replaceAll('_', '/')), (byte) => byte.charCodeAt(0))
  } catch {
    return []
  }
}
