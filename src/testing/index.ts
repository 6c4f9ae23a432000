/**
 * Zealous Mantle for tests: what a store of one's own has to keep.
 *
 * @module zealous-mantle/testing
 */

export { type StoreCheck, storeContract } from "./store-contract.ts";
