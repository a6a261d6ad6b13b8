import { parseArgs } from 'node:util'
import { Refusal } from '@core/model'
import { onData } from './start/on-data'

/** Who has an account, and what is done with it, where there is no page to do it on: npm run people. */
const HELP = `npm run people -- list [WORDS]                  who has an account
npm run people -- invite ADDRESS [--operator]   makes a link; the first operator comes by one
npm run people -- operator ADDRESS [--no]       runs the server from now on, or no longer
npm run people -- block ADDRESS                 signs in nowhere any more
npm run people -- open ADDRESS                  signs in again; an address that was never shown to be theirs counts as shown
npm run people -- reset ADDRESS                 makes a link that sets another password
npm run people -- hand-over ADDRESS HEIR        gives all talks, series, groups and calls to another
npm run people -- delete ADDRESS [--no]         goes with all that they have once the days of grace are over, or stays
Each takes --data FOLDER for another data folder than the usual one.`

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    data: { type: 'string' },
    operator: { type: 'boolean', default: false },
    no: { type: 'boolean', default: false },
    help: { type: 'boolean', default: false },
  },
})
const [command = 'help', address = '', heir = ''] = positionals.map((word, n) => (n === 0 ? word : word.toLowerCase()))
if (values.help || command === 'help') {
  console.log(HELP)
  process.exit(0)
}

const { end } = await onData(values.data)
const { database } = await import('@server/database')
const people = await import('@server/domain')

/** Lists who has an account, a line each. */
async function list(words: string): Promise<string> {
  const lines: string[] = []
  for (let from = 0; ; from += people.PEOPLE_A_PAGE) {
    const page = await people.peoplePage(database(), words, from)
    for (const { name, email, operator, blocked, verified, goes, talks, bytes } of page.people) {
      const marks = [
        operator ? 'operator' : '',
        blocked ? 'blocked' : '',
        verified ? '' : 'address not shown',
        goes === null ? '' : `goes ${goes.slice(0, 10)}`,
      ].filter((mark) => mark !== '')
      lines.push(`${email}  ${name}  ${String(talks)} talks, ${(bytes / 1e9).toFixed(2)} GB  ${marks.join(', ')}`.trimEnd())
    }
    if (from + page.people.length >= page.count || page.people.length === 0) break
  }
  return lines.length === 0 ? 'Nobody has an account here.' : lines.join('\n')
}

/** Does what is asked. @returns what is to be said */
async function work(): Promise<string> {
  return await database()
    .transaction()
    .execute(async (q) => {
      const person = async (): Promise<string> => (await people.personOfAddress(q, address)).id
      switch (command) {
        case 'list':
          return await list(address)
        case 'invite':
          return `For ${address}, once, within two weeks:\n${await people.invite(q, null, address, values.operator)}`
        case 'operator':
          await people.changePerson(q, await person(), { operator: !values.no })
          return `${address} ${values.no ? 'no longer runs' : 'runs'} this server.`
        case 'block':
          await people.changePerson(q, await person(), { blocked: true })
          return `${address} is blocked.`
        case 'open':
          await people.changePerson(q, await person(), { blocked: false, verified: true })
          return `${address} can sign in.`
        case 'reset':
          return `For ${address}, once, within the hour:\n${await people.resetLink(q, await person(), address, null)}`
        case 'hand-over': {
          const talks = await people.handOver(q, await person(), (await people.personOfAddress(q, heir)).id)
          return `${String(talks)} talks of ${address} are ${heir}'s now.`
        }
        case 'delete':
          await people.changePerson(q, await person(), { goes: !values.no })
          return values.no ? `${address} stays.` : `${address} goes once the days of grace are over.`
        default:
          throw new Refusal('malformed', `There is no “${command}”.\n${HELP}`)
      }
    })
}

try {
  end(0, await work())
} catch (fault) {
  end(1, fault instanceof Refusal ? fault.message : String(fault))
}
