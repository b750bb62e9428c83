import ar from 'i18n-iso-countries/langs/ar.json'
import cs from 'i18n-iso-countries/langs/cs.json'
import da from 'i18n-iso-countries/langs/da.json'
import de from 'i18n-iso-countries/langs/de.json'
import el from 'i18n-iso-countries/langs/el.json'
import en from 'i18n-iso-countries/langs/en.json'
import es from 'i18n-iso-countries/langs/es.json'
import fi from 'i18n-iso-countries/langs/fi.json'
import fr from 'i18n-iso-countries/langs/fr.json'
import hu from 'i18n-iso-countries/langs/hu.json'
import it from 'i18n-iso-countries/langs/it.json'
import ja from 'i18n-iso-countries/langs/ja.json'
import ko from 'i18n-iso-countries/langs/ko.json'
import nb from 'i18n-iso-countries/langs/nb.json'
import nl from 'i18n-iso-countries/langs/nl.json'
import pl from 'i18n-iso-countries/langs/pl.json'
import pt from 'i18n-iso-countries/langs/pt.json'
import ro from 'i18n-iso-countries/langs/ro.json'
import ru from 'i18n-iso-countries/langs/ru.json'
import sv from 'i18n-iso-countries/langs/sv.json'
import tr from 'i18n-iso-countries/langs/tr.json'
import uk from 'i18n-iso-countries/langs/uk.json'
import zh from 'i18n-iso-countries/langs/zh.json'
import { plainName } from './plain-name'

type Names = { countries: Record<string, string | string[]> }

/** Languages in which countries are known by their names; short forms and abbreviations stand beside the names. */
const languages: Names[] = [
  ar,
  cs,
  da,
  de,
  el,
  en,
  es,
  fi,
  fr,
  hu,
  it,
  ja,
  ko,
  nb,
  nl,
  pl,
  pt,
  ro,
  ru,
  sv,
  tr,
  uk,
  zh,
]

let byName: Map<string, string> | null = null

/** Names of countries, without accents, case and common words, with their two letters. */
function namesOfCountries(): Map<string, string> {
  if (byName) return byName
  byName = new Map()
  for (const { countries } of languages)
    for (const [code, names] of Object.entries(countries))
      for (const name of [names].flat()) {
        const plain = plainName(name)
        // Where two languages mean different countries by one name, the first one listed decides.
        if (plain && !byName.has(plain)) byName.set(plain, code)
      }
  return byName
}

/** The two letters of the country that a name means in any of the languages; null where it means none. */
export const countryNamed = (name: string): string | null => namesOfCountries().get(plainName(name)) ?? null
