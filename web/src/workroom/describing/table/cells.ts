/** Cells of a block as spreadsheets copy them: tabs between, a cell with line ends or tabs in quotation marks. */
export function cells(text: string): string[][] {
  const rows: string[][] = [[]]
  let cell = ''
  let quoted = false
  const end = () => {
    rows.at(-1)?.push(cell)
    cell = ''
  }
  const plain = text.replace(/\r\n?/g, '\n').replace(/\n$/, '')
  if (plain === '') return []
  for (let i = 0; i < plain.length; i++) {
    const sign = plain[i] as string
    if (quoted) {
      if (sign === '"' && plain[i + 1] === '"') cell += plain[++i]
      else if (sign === '"') quoted = false
      else cell += sign
    } else if (sign === '"' && cell === '') quoted = true
    else if (sign === '\t') end()
    else if (sign === '\n') {
      end()
      rows.push([])
    } else cell += sign
  }
  end()
  return rows
}
