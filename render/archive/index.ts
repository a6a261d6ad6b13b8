export * from './unpack-archive'
export * from './unpack-archive-apart'
