/**
 * For other websites, beside a frame that shows photos of this one: makes it as high as it says it is. One statement, which leaves
 * nothing behind there, and may run for each of several frames.
 */
addEventListener('message', ({ source, origin, data }) => {
  const height = data?.embedHeight
  if (typeof height !== 'number' || !Number.isFinite(height)) return
  // Only a frame that shows an embed of the site that speaks, and only that one.
  for (const frame of document.querySelectorAll('iframe'))
    if (frame.contentWindow === source && frame.src.startsWith(`${origin}/embed/`))
      frame.style.height = `${Math.min(Math.max(height, 0), 100_000)}px`
})
