import * as oidc from 'openid-client'
import { STAND_IN, type FoundProvider, type Provider } from '#contract'
import { isLoopback } from '../loopback'
import { HttpProblem } from '../problem'

/** How far the provider's clock may be from ours, in seconds. */
const CLOCK_TOLERANCE = 60
/** What a provider says of itself is asked again after this long. */
const KNOWN_FOR_MS = 60 * 60_000

/** What one browser has begun: kept here, and known to it by a cookie. */
export interface Begun {
  state: string
  nonce: string
  verifier: string
}

/** Whom the provider let through. */
export interface Claimed {
  /** What it calls them for good. */
  subject: string
  /** The claim that was asked for, which may be missing. */
  signIn: string | null
  name: string | null
  email: string | null
}

export interface ProviderOptions {
  /** Which the provider gave for this installation; null where it takes the code with its proof alone. */
  secret: string | null
  /** Seconds that it may take to answer. */
  seconds: () => number
  /** Where the stand-in is; null where it is not served. */
  standIn: () => string | null
}

/** OpenID Connect, its code flow with a proof key (RFC 7636). */
export function providerClient({ secret, seconds, standIn }: ProviderOptions) {
  let known: { key: string; at: number; config: oidc.Configuration } | null = null
  let asking: { key: string; answer: Promise<oidc.Configuration> } | null = null

  async function discover({ issuer, clientId, name }: Provider): Promise<oidc.Configuration> {
    const address = issuer === STAND_IN ? standIn() : issuer
    if (address === null)
      throw new HttpProblem(409, 'The stand-in provider is not served here: give the address of a real one.', { field: 'issuer' })
    const of = `${address} ${clientId}`
    if (known?.key === of && Date.now() - known.at < KNOWN_FOR_MS) {
      known.config.timeout = seconds()
      return known.config
    }
    // Many who come at once ask it once.
    if (asking?.key !== of) asking = { key: of, answer: ask(address, clientId, name).finally(() => (asking = null)) }
    const config = await asking.answer
    known = { key: of, at: Date.now(), config }
    return config
  }

  async function ask(address: string, clientId: string, name: string): Promise<oidc.Configuration> {
    try {
      const url = new URL(address)
      const execute = isLoopback(url.hostname.replace(/[[\]]/g, '')) && url.protocol === 'http:' ? [oidc.allowInsecureRequests] : []
      const found = await oidc.discovery(url, clientId, undefined, oidc.None(), { execute, timeout: seconds() })
      const server = found.serverMetadata()
      const config = new oidc.Configuration(
        server,
        clientId,
        { [oidc.clockTolerance]: CLOCK_TOLERANCE },
        // What is said where nothing is said, by OpenID Connect Discovery 1.0, section 3.
        secret === null
          ? oidc.None()
          : (server.token_endpoint_auth_methods_supported ?? ['client_secret_basic']).includes('client_secret_basic')
            ? oidc.ClientSecretBasic(secret)
            : oidc.ClientSecretPost(secret),
      )
      config.timeout = seconds()
      for (const allow of execute) allow(config)
      // What it signed is checked against its keys, also though it came from it directly.
      oidc.enableNonRepudiationChecks(config)
      return config
    } catch (e) {
      throw problemOf(e, name)
    }
  }

  return {
    /** @throws HttpProblem where it cannot be asked or is none */
    async about(provider: Provider): Promise<FoundProvider> {
      known = null
      const { issuer, claims_supported: claims = [] } = (await discover(provider)).serverMetadata()
      return { issuer, claims: claims.slice(0, 200).map((c) => c.slice(0, 100)) }
    },
    /** Where the browser goes, and what has to be known when it comes back. @throws HttpProblem */
    async begin(provider: Provider, backTo: string): Promise<{ to: string; begun: Begun }> {
      const config = await discover(provider)
      const begun = { state: oidc.randomState(), nonce: oidc.randomNonce(), verifier: oidc.randomPKCECodeVerifier() }
      const to = oidc.buildAuthorizationUrl(config, {
        redirect_uri: backTo,
        scope: 'openid profile email',
        response_type: 'code',
        state: begun.state,
        nonce: begun.nonce,
        code_challenge: await oidc.calculatePKCECodeChallenge(begun.verifier),
        code_challenge_method: 'S256',
      })
      return { to: to.href, begun }
    },
    /** Whom it let through. @param back the whole address that the browser came back to @throws HttpProblem */
    async finish(provider: Provider, back: URL, { state, nonce, verifier }: Begun): Promise<Claimed> {
      const config = await discover(provider)
      try {
        const tokens = await oidc.authorizationCodeGrant(config, back, {
          pkceCodeVerifier: verifier,
          expectedState: state,
          expectedNonce: nonce,
          idTokenExpected: true,
        })
        const id = tokens.claims()!
        // Many say who somebody is when they are asked for it, and not in what they sign.
        const more = config.serverMetadata().userinfo_endpoint ? await oidc.fetchUserInfo(config, tokens.access_token, id.sub) : {}
        const claims: Record<string, unknown> = { ...more, ...id }
        const text = (claim: string) => {
          const value = claims[claim]
          return typeof value === 'string' && value.trim() !== '' ? value.trim() : null
        }
        const trusted = claims.email_verified !== false
        return {
          subject: id.sub,
          signIn: provider.claim === 'email' && !trusted ? null : text(provider.claim),
          name: text('name'),
          email: trusted ? text('email') : null,
        }
      } catch (e) {
        throw problemOf(e, provider.name)
      }
    },
  }
}

/** What went wrong, for who stands at the door. */
function problemOf(error: unknown, name: string): HttpProblem {
  if (error instanceof HttpProblem) return error
  if (error instanceof oidc.AuthorizationResponseError)
    return new HttpProblem(
      403,
      error.error === 'access_denied'
        ? `${name} did not let you through.`
        : `${name} answered with “${error.error}”. Try again, or ask whoever runs it.`,
    )
  const { code, cause } = error as { code?: string; cause?: unknown }
  if (code === 'OAUTH_TIMEOUT') return new HttpProblem(504, `${name} did not answer in time. Try again in a while.`)
  if (code === 'OAUTH_RESPONSE_IS_NOT_CONFORM' || (error instanceof oidc.ClientError && (cause as Error | undefined)?.name === 'TypeError'))
    return new HttpProblem(502, `${name} cannot be reached, or is no sign-on provider. Try again in a while.`)
  return new HttpProblem(
    502,
    `What ${name} answered cannot be trusted, so that nobody was let in. If it stays so, tell whoever runs this installation${code ? ` (${code})` : ''}.`,
  )
}
