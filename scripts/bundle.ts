import { ensureBuilt } from './start/build'
import { bundle, bundleApart, isProgram } from './start/programs'

/** Bundles the program that is named, and those that it starts, for the commands of package.json that run it then. */
const name = process.argv[2] ?? ''
if (!isProgram(name)) throw new Error(`There is no program “${name}”.`)
// A build takes away what was bundled before it.
if (name === 'bench') ensureBuilt()
bundle(name)
bundleApart()
