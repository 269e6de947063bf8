const devices = ['phone', 'tablet', 'desktop'] as const

/** A size of window by which a block may show other photos. */
type Device = (typeof devices)[number]

/** Which device the window is; as in Core and in the style sheet. */
export const deviceNow = (): Device => (innerWidth < 600 ? 'phone' : innerWidth < 1024 ? 'tablet' : 'desktop')

/** Of what the page says, once for all or of each device, what it says of this one. */
export function saidOf(device: Device, said: string | undefined): string {
  const each = (said ?? '').split(',')
  return each[devices.indexOf(device)] ?? each[0] ?? ''
}
