import type { Api } from '../../api/client'

export type Contributed = Api['ContributedPhoto']
export type Link = Api['LinkLine']

/** A picture of a photo that was sent in: 480 or 1600 pixels wide. */
export const pictureOf = (photo: string, width: 480 | 1600) => `/api/contributions/photos/${photo}/${width}`

/** What a photo that was sent in is called. */
export const nameOf = (photo: Contributed) => photo.title || photo.fileName
