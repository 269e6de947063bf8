import { useState } from 'react'

const key = 'jovitar-folded'

/** Whether the contents are folded to a narrow column of figures, kept for this browser. */
export function useFolded(): [boolean, () => void] {
  const [folded, setFolded] = useState(() => localStorage.getItem(key) === 'yes')
  return [
    folded,
    () => {
      localStorage.setItem(key, folded ? 'no' : 'yes')
      setFolded(!folded)
    },
  ]
}
