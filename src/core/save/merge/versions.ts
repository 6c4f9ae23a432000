/** Two changes of one thing, made without knowledge of each other. */
export interface Versions<T, Base = T> {
  /** What both began with. */
  readonly base: Base;
  /** What it is here. */
  readonly mine: T;
  /** What another writer made of it. */
  readonly theirs: T;
}
