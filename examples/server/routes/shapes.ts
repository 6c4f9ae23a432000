/** Shapes of what clients send, in JSON Schema: the server checks them, and its description shows them. */

export const id = { type: "string", pattern: "^[a-z0-9-]{1,64}$" } as const;
export const part = { type: "string", minLength: 1, maxLength: 128 } as const;
export const revision = { type: "integer", minimum: 0, maximum: Number.MAX_SAFE_INTEGER } as const;
/** The same in an address, where everything is text; so many digits are a number exactly. */
export const writtenRevision = { type: "string", pattern: "^[1-9]\\d{0,14}$" } as const;
/** The client's own name of what it asks for, so that it is not done twice. */
export const request = { type: "string", pattern: "^[\\w-]{8,64}$" } as const;

export const closed = { type: "object", additionalProperties: false } as const;

export const byId = { params: { ...closed, required: ["id"], properties: { id } } } as const;
