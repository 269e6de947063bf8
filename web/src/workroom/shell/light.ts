import { useEffect, useState } from 'react'

const key = 'jovitar-light'

/** Light or dim, kept for this browser. */
export function useLight(): ['light' | 'dim', () => void] {
  const [light, setLight] = useState<'light' | 'dim'>(() =>
    localStorage.getItem(key) === 'dim' ? 'dim' : 'light',
  )
  useEffect(() => {
    document.documentElement.dataset.light = light
    localStorage.setItem(key, light)
  }, [light])
  useEffect(() => {
    const hear = () => setLight(localStorage.getItem(key) === 'dim' ? 'dim' : 'light')
    window.addEventListener('jovitar-light', hear)
    return () => window.removeEventListener('jovitar-light', hear)
  }, [])
  return [light, toggleLight]
}

export function toggleLight() {
  localStorage.setItem(key, localStorage.getItem(key) === 'dim' ? 'light' : 'dim')
  window.dispatchEvent(new Event('jovitar-light'))
}
