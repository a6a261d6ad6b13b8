declare module '#auth-utils' {
  interface User {
    readonly id: string
  }
}

export {}
