/** Zealous Mantle for tests: what a store of one's own has to keep. */

export { type StoreCheck, storeContract } from "./store-contract.ts";
