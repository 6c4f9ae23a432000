import { type JSONDocument, Logger } from "@gltf-transform/core";
import { type Message, message } from "../base/message.ts";
import type { Problem } from "../base/problem.ts";
import { checkStructure } from "./check-structure.ts";
import { openContainer } from "./container.ts";
import { modelOf } from "./documents.ts";
import { urisOf } from "./external-files.ts";
import { mendModel } from "./mend-model.ts";
import type { ModelFile } from "./model-file.ts";
import { quietIO } from "./write-model.ts";

/** A model that was read, or what is wrong with it. */
export interface ModelReading {
  /** `undefined` for a file that cannot be read. */
  readonly model: ModelFile | undefined;
  readonly problems: readonly Problem[];
}

/** What a model says of files beside it: their bytes, by the URI it names them by. */
export type Resources = ReadonlyMap<string, Uint8Array>;

/**
 * Reads a glTF 2.0 file, text or binary. Nothing is fetched: what it keeps in other files is handed in, and all of it is checked before it is
 * believed. Never throws.
 *
 * @param resources - the bytes of its other files, by the URI that `externalFiles` gives.
 * @returns the model, with what was mended in it as warnings; or none, with errors.
 */
export async function readModel(
  name: string,
  bytes: Uint8Array,
  resources: Resources = new Map(),
): Promise<ModelReading> {
  const opened = openContainer(bytes);
  if (!("json" in opened)) return unreadable(name, opened);
  const { json, binary } = opened;
  const buffers = Array.isArray(json["buffers"]) ? json["buffers"] : [];
  const known = new Map(resources);
  for (const uri of urisOf(json)) if (uri.startsWith("data:")) known.set(uri, fromDataUri(uri));
  const flaws = checkStructure(name, json, ({ uri }, number) => {
    if (typeof uri === "string") return known.get(uri)?.length;
    return number === 0 ? binary?.length : undefined;
  });
  if (flaws.length > 0) return { model: undefined, problems: flaws };
  const missing = urisOf(json).find((uri) => !known.has(uri));
  if (missing !== undefined) return unreadable(name, message("model-file-missing", { path: missing.slice(0, 80) }));
  const needed = [json["extensionsRequired"] ?? []].flat();
  if (needed.length > 0) return unreadable(name, message("model-needs-extension", { extensions: needed.map(String) }));
  const source: JSONDocument = {
    json: json as unknown as JSONDocument["json"],
    resources: Object.fromEntries([
      ...[...known].filter(([uri]) => !uri.startsWith("data:")),
      ...(binary === undefined || buffers.length === 0 ? [] : [["@glb.bin", binary]]),
    ]),
  };
  try {
    const document = (await quietIO().readJSON(source)).setLogger(new Logger(Logger.Verbosity.SILENT));
    const dropped = [json["extensionsUsed"] ?? []].flat().map(String);
    const problems = mendModel(name, document, dropped);
    const isWrong = problems.some(({ severity }) => severity === "error");
    return { model: isWrong ? undefined : modelOf(name, document), problems };
  } catch (error) {
    return unreadable(
      name,
      message("model-refused", { reason: error instanceof Error ? error.message : String(error) }),
    );
  }
}

declare const atob: (text: string) => string;

function fromDataUri(uri: string): Uint8Array {
  const [head = "", body = ""] = uri.split(",");
  try {
    const text = head.endsWith(";base64") ? atob(body) : decodeURIComponent(body);
    return Uint8Array.from(text, (letter) => letter.charCodeAt(0));
  } catch {
    // Of what is no base64, nothing is there, and its buffer is too short.
    return new Uint8Array(0);
  }
}

function unreadable(
  file: string,
  finding: Message<
    "model-no-gltf" | "model-container" | "model-file-missing" | "model-needs-extension" | "model-refused"
  >,
): ModelReading {
  const place = { file, pointer: "" };
  const fixes = [{ code: "export-again", params: {} }] as const;
  return { model: undefined, problems: [{ ...finding, severity: "error", place, fixes }] };
}
