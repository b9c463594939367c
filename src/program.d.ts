declare namespace NodeJS {
  interface ProcessEnv {
    /** Which build of the program this is: written into it by `next.config.ts`. */
    readonly NEXT_PUBLIC_BUILD?: string;
  }
}
