/** A type with every field there, all the way down; tuples stay tuples. */
export type Full<T> = T extends readonly unknown[]
  ? { [K in keyof T]: Full<T[K]> }
  : T extends object
    ? { [K in keyof T]-?: Full<Exclude<T[K], undefined>> }
    : T;
