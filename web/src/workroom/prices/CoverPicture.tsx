import { rendition } from '../../kit/renditions'

/** The picture that a sales gallery is known by, in its place at the start of a line; empty where it has none. */
export function CoverPicture({
  of,
  className,
}: {
  of: { picture: string | null; width: number; height: number }
  className: string
}) {
  if (!of.picture) return <span aria-hidden />
  return (
    <img
      src={rendition(of.picture, 240)}
      alt=""
      width={of.width}
      height={of.height}
      className={`object-cover ${className}`}
    />
  )
}
