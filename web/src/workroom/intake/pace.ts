const window = 60_000

/** How fast bytes go out, from the last minute, and how long the rest takes at that pace. */
export class Pace {
  #sent = new Map<number, number>()
  #marks: { at: number; total: number }[] = []
  #total = 0

  reset() {
    this.#marks = []
    this.#sent.clear()
    this.#total = 0
  }

  /** Notes how much of one file is out. */
  note(key: number, sent: number) {
    const before = this.#sent.get(key) ?? 0
    if (sent <= before) return
    this.#sent.set(key, sent)
    this.#total += sent - before
    const at = performance.now()
    const last = this.#marks.at(-1)
    if (last && at - last.at < 250) last.total = this.#total
    else this.#marks.push({ at, total: this.#total })
    while (this.#marks.length > 2 && (this.#marks[0]?.at ?? 0) < at - window) this.#marks.shift()
  }

  /** Seconds until all is sent, or null while there is too little to judge by. */
  left(sent: number, all: number): number | null {
    const first = this.#marks[0]
    const last = this.#marks.at(-1)
    if (!first || !last || last.at - first.at < 2000 || last.total <= first.total) return null
    return ((all - sent) * (last.at - first.at)) / (last.total - first.total) / 1000
  }
}
