import { ApiProblem, api, body } from '../../api/client'
import { w } from '../../words'

/** Whether passkeys can be used here: by a browser that knows them, over a safe line, on a site that is reached by its name (WebAuthn level 3 §5.1.2). */
export const hasPasskeys = () =>
  window.isSecureContext &&
  typeof window.PublicKeyCredential?.parseCreationOptionsFromJSON === 'function' &&
  !/^[\d.]+$|:/.test(window.location.hostname)

/** Asks the device for what the server asked; what it answers, or a sentence where it answers nothing. */
async function ask(wanted: Promise<Credential | null>, sentence: string) {
  const credential = await wanted.catch(() => null)
  if (!(credential instanceof PublicKeyCredential)) throw new ApiProblem(0, 'no-passkey', sentence)
  return JSON.stringify(credential.toJSON())
}

/** Signs in with a passkey of this device. */
export async function signInByPasskey() {
  const { options, state } = await body(api.POST('/api/session/passkey/begin'), w.errors.away)
  const publicKey = PublicKeyCredential.parseRequestOptionsFromJSON(JSON.parse(options))
  const credential = await ask(navigator.credentials.get({ publicKey }), w.ways.noPasskey)
  await body(api.POST('/api/session/passkey', { body: { state, credential } }), w.errors.away)
}

/** Makes a passkey on this device and puts it on one's account. */
export async function makePasskey(current: string, name: string) {
  const { options, state } = await body(
    api.POST('/api/account/passkeys/begin', { body: { current } }),
    w.errors.away,
  )
  const publicKey = PublicKeyCredential.parseCreationOptionsFromJSON(JSON.parse(options))
  const credential = await ask(navigator.credentials.create({ publicKey }), w.account.passkeys.refused)
  await body(api.POST('/api/account/passkeys', { body: { state, credential, name } }), w.errors.away)
}
