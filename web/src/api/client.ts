import createClient from 'openapi-fetch'
import type { components, paths } from './schema'

/** The types of the API, from its description. */
export type Api = components['schemas']

/** What the server says went wrong: a sentence, and a sentence a field. */
export class ApiProblem extends Error {
  constructor(
    readonly status: number,
    readonly kind: string,
    message: string,
    readonly fields: Record<string, string> = {},
  ) {
    super(message)
  }
}

let forgery = ''

/** Remembers the token that every unsafe request must carry. */
export function setForgery(token: string) {
  forgery = token
}

export function forgeryToken() {
  return forgery
}

export const api = createClient<paths>({ baseUrl: '/' })

api.use({
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-Jovitar-Forgery', forgery)
    return request
  },
})

/** Reads a problem out of an answer that is none of ours, too. */
export function problemOf(status: number, body: unknown, away: string): ApiProblem {
  if (typeof body === 'object' && body !== null && 'title' in body && typeof body.title === 'string') {
    const type = 'type' in body && typeof body.type === 'string' ? body.type : ''
    const fields = 'fields' in body && typeof body.fields === 'object' ? body.fields : undefined
    return new ApiProblem(
      status,
      type.replace('urn:jovitar:', ''),
      body.title,
      (fields ?? {}) as Record<string, string>,
    )
  }
  return new ApiProblem(status, 'unknown', away)
}

/** What a request takes to send the bytes of a file as they are; the client's own way of writing bodies is for objects. */
export const bytesOf = (file: File, type: string) => ({
  body: file as unknown as string,
  bodySerializer: (it: unknown) => it as File,
  headers: { 'Content-Type': type },
})

/** Waits for an answer and gives its body, or throws the problem. */
export async function body<T>(
  answer: Promise<{ data?: T; error?: unknown; response: Response }>,
  away: string,
): Promise<T> {
  let got: { data?: T; error?: unknown; response: Response }
  try {
    got = await answer
  } catch {
    throw new ApiProblem(0, 'away', away)
  }
  if (!got.response.ok) throw problemOf(got.response.status, got.error, away)
  return got.data as T
}
