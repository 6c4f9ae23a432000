import { MantleError } from "zealous-mantle";

/** Why a call is refused. */
export async function refused(call: Promise<unknown>): Promise<MantleError> {
  const error = await call.then(
    () => undefined,
    (thrown: unknown) => thrown,
  );
  if (error instanceof MantleError) return error;
  throw error ?? new Error("Nothing was refused");
}
