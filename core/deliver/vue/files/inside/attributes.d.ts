// What elements of screens have besides: how own code and own styles find them.
declare module 'vue' {
  interface HTMLAttributes {
    'data-name'?: string | undefined
    'data-screen'?: string | undefined
  }
}

export {}
