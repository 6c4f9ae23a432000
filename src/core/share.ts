/**
 * Looks as short codes, which players hand to one another: written, and read again with what the catalog does not have left out.
 *
 * @module zealous-mantle/share
 */

export { readSharedLook, type SharedLook, shareLook } from "./save/share.ts";
