import { bundle, bundleApart, isProgram } from './start/programs'

/** Bundles the program that is named, and those that it starts, for the commands of package.json that run it then. */
const name = process.argv[2] ?? ''
if (!isProgram(name)) throw new Error(`There is no program “${name}”.`)
bundle(name)
bundleApart()
