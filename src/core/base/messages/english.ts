import * as documents from "./english-documents.ts";
import { englishLoadouts } from "./english-loadouts.ts";

/** All our sentences, in English. */
export const english = { ...englishLoadouts, ...documents.problems, ...documents.fixes, ...documents.phrases } as const;
