import { bundle } from './start/programs'
import type { Program } from './start/programs'

/** Bundles the program that is named, for the commands of package.json that run it then. */
bundle(process.argv[2] as Program)
