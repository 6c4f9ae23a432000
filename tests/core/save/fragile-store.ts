import { MantleError, type Store } from "zealous-mantle";

/** How a call fails: before it is done, or after it is done and before that is known. */
export type Failure = "before" | "after" | undefined;

/** A store whose calls fail: before they are done, or after they are done and before that is known. */
export function fragile(store: Store, fails: () => Failure): Store {
  const guarded =
    <Args extends readonly unknown[], T>(call: (...args: Args) => Promise<T>) =>
    async (...args: Args): Promise<T> => {
      const failure = fails();
      if (failure === "before") throw new MantleError("no-connection", "Nobody answers.");
      const result = await call(...args);
      if (failure === "after") throw new MantleError("no-connection", "The answer was cut off.");
      return result;
    };
  return { read: guarded(store.read), write: guarded(store.write), list: guarded(store.list) };
}
