export { languageName } from '@core/language'
