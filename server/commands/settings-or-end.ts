import { readSettings, SettingError, type Settings } from '../kernel/settings'

/** The settings of this process; where one cannot be, says which and ends. */
export function settingsOrEnd(): Settings {
  try {
    return readSettings(process.env)
  } catch (e) {
    if (!(e instanceof SettingError)) throw e
    console.error(e.message)
    process.exit(1)
  }
}
