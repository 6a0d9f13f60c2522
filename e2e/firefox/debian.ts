import { fileURLToPath } from 'node:url'

/** What Firefox would look up of its own accord, it leaves: nothing goes beyond this machine. */
const ALONE = {
  'app.normandy.enabled': false,
  'app.update.disabledForTesting': true,
  'browser.newtabpage.activity-stream.feeds.system.topstories': false,
  'browser.safebrowsing.downloads.enabled': false,
  'browser.safebrowsing.malware.enabled': false,
  'browser.safebrowsing.phishing.enabled': false,
  'browser.search.update': false,
  'datareporting.policy.dataSubmissionEnabled': false,
  'extensions.systemAddon.update.enabled': false,
  'extensions.update.enabled': false,
  'messaging-system.rsexperimentloader.enabled': false,
  'network.captive-portal-service.enabled': false,
  'network.connectivity-service.enabled': false,
  'services.settings.server': 'data:,nothing',
  'toolkit.telemetry.enabled': false,
  'ui.prefersReducedMotion': 1,
}

/** Debian's Firefox as it is, headless: Playwright's own is built for it and is not to be had here. */
export const FIREFOX = {
  browserName: 'firefox',
  channel: 'moz-firefox',
  launchOptions: { executablePath: fileURLToPath(new URL('through-bidi.mjs', import.meta.url)), firefoxUserPrefs: ALONE },
} as const
