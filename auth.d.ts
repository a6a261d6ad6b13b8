declare module '#auth-utils' {
  interface User {
    /** Where somebody is signed in; see the table of that name. */
    readonly place: string
  }
}

export {}
