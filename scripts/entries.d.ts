export const entries: readonly { readonly entry: string; readonly source: string; readonly holds: string }[];
export function nameOf(entry: string): string;
export function builtFile(entry: string): string;
export function typesFile(entry: string): string;
export const aliases: { find: RegExp; replacement: string }[];
