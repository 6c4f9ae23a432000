/**
 * English sentences about loadouts and edits: why something cannot be worn, and what would change that. The ready-made screens show them.
 *
 * `{part}` stands for a parameter of that name, and is shown in quotes or, where `format` is given titles, by its title. `{of:or}` joins
 * a list by the word for "or", every other list is joined by the word for "and". `{say:text}` is a text of the catalog's author.
 * `{count:one=place;other=places}` is the word for the plural category of a number (Unicode CLDR), without the number.
 */

/** What is wrong with a name. */
export const names = {
  "name-too-long": 'The name "{name}" has {count} letters; {max} is the most.',
  "name-too-many-characters": "The name takes {count} characters to write; {max} is the most.",
  "name-not-seen": "The name holds a character that is not seen, or that no font has.",
  "name-of-two-scripts": "The name mixes letters of several scripts, so that it may pass for another one.",
  "name-taken": 'Someone is called "{name}" already.',
  "name-refused": 'The name "{name}" cannot be used.',
} as const;

/** What is wrong. */
export const problems = {
  // Ids that name nothing
  "unknown-body": 'There is no body "{id}".',
  "unknown-channel": 'There is no channel "{id}".',
  "unknown-outfit": 'There is no outfit "{id}".',
  "unknown-part": 'There is no part "{id}".',
  "unknown-preset": 'There is no preset "{id}".',
  "unknown-slot": 'There is no slot "{id}".',
  // Loadouts and edits
  "wrong-slot": '"{part}" does not go in slot "{slot}".',
  "does-not-fit": '"{part}" was not made for body "{body}".',
  "fully-grown": 'Body "{body}" does not grow into another.',
  "slot-taken-twice": 'Only one of {parts} can take slot "{slot}".',
  "required-slot": 'Slot "{slot}" must not be empty.',
  "default-stays": '"{part}" is what slot "{slot}" shows when nothing else is worn there, so it cannot be taken off.',
  "never-together": '"{part}" and "{other}" are never worn together.',
  "need-unmet": '"{part}" requires {min} {stat}, and there is {value} without it.',
  "needs-missing": "With {when} there must be {needs}.",
  "total-too-high": "{stat:start} comes to {value}, and {bound} is the most.",
  "total-too-low": "{stat:start} comes to {value}, and {bound} is the least.",
  "count-too-high": "At most {bound} {pattern} can be worn, not {value}.",
  "count-too-low": "At least {bound} {pattern} must be worn, not {value}.",
  "ramp-not-offered": 'Channel "{channel}" does not offer ramp "{ramp}".',
  "outfit-clash": 'Outfit "{outfit}" cannot be worn whole: "{part}" finds no place beside the rest.',
  "likeness-clash": '"{part}" finds no place beside the rest of what is to be worn.',
  "not-carried": 'There is no "{part}" in the bag.',
  "not-owned": '"{part}" is not owned.',
  "not-known": '"{part}" is not known to this player.',
  "no-longer-available": '"{part}" is no longer available.',
  "missing-pack": 'Pack "{pack}" is not there.',
  "already-owned": '"{part}" is owned already.',
  "not-for-sale": '"{part}" has no price, so it cannot be bought.',
  "too-dear": '"{part}" costs {price}, and there is {balance}.',
  "bag-full": 'The bag has {places} {places:one=place;other=places}, and there is none left for "{part}".',
  "cannot-split": 'The largest stack of "{part}" has {count}, so {take} cannot be split off.',
  "cannot-drop": 'There {count:one=is;other=are} {count} of "{part}" in the bag, so {take} cannot be left behind.',
  "answer-too-long": "The answer has {count} characters; {max} is the most.",
  ...names,
  "not-offered": 'Step "{step}" does not offer "{answer}".',
  "not-answered": 'Step "{step}" has no answer yet.',
} as const;

/** What to do. A code that begins with `mend-` goes with the problem of that name. */
export const fixes = {
  // Ids that name nothing
  "meant-id": 'Write "{meant}" if that is meant.',
  "name-known": "Name one that is in the catalog.",
  // Loadouts and edits
  "take-off": 'Take "{part}" off.',
  "take-off-from": 'Take "{part}" off "{slot}".',
  "take-off-first": "Take {parts} off first.",
  "put-on-first": "Put {parts} on first.",
  "do-edits": "To mend it, {edits}.",
  "leave-behind": 'Leave "{part}" behind.',
  "put-on-too": "Put {parts} on as well.",
  "change-first": "Change {slots} first.",
  "put-another-on": "Put something else on in its place.",
  "put-in-bag": "Put one in the bag first.",
  "goes-in": "It goes in {slots:or}.",
  "fits-bodies": "It fits {bodies}.",
  "offers-ramps": "It offers {ramps}.",
  "paint-default": 'Paint it "{ramp}".',
  "acquire-for": "It can be had for {price}.",
  "load-pack": 'Load pack "{pack}".',
  "acquire-first": "It has to be acquired first.",
  "earn-more": "Come back with {amount} more.",
  "make-room": "Make room in the bag first.",
  "leave-out": "Leave out {count}.",
  "another-name": "Choose another name.",
  "answer-first": "Choose one first.",
} as const;

/** What follows a finding, what sentences are put together from, and messages that are no findings. */
export const phrases = {
  authored: "{say:text}",
  // What follows a finding
  "is-missing": "missing: {needs}",
  "kept-aside": "It is kept, and not shown.",
  "kept-for-pack": "Its items are kept until the pack is loaded again.",
  "default-shown": '"{ramp}" is shown.',
  // Why something came off
  "slot-is-taken": '"{part}" takes slot "{slot}".',
  "was-taken-off": "It was taken off.",
  "likeness-without": "What is to be shown does not have it.",
  "outfit-without": 'Outfit "{outfit}" is worn without it.',
  counterpart: 'On body "{body}" there is "{other}" in place of "{part}".',
  // Edits
  "edit-wear": 'put on "{part}"',
  "edit-wear-in": 'put on "{part}" in slot "{slot}"',
  "edit-take-off": 'take off "{part}"',
  "edit-take-off-from": 'take "{part}" off "{slot}"',
  "edit-remove": 'empty slot "{slot}"',
  "edit-cycle": 'take the next for slot "{slot}"',
  "edit-paint": 'paint "{channel}" in "{ramp}"',
  "edit-dress": 'put on outfit "{outfit}"',
  "edit-body": 'change the body to "{body}"',
  "edit-grow": "grow up",
  "edit-rename": 'take the name "{rename}"',
  "edit-fact": 'answer "{fact}" with "{answer}"',
  "edit-forget": 'forget the answer to "{fact}"',
  "edit-preset": 'become "{preset}"',
  "edit-appearance": "become what is shown",
  "edit-split": 'split {count} of "{part}" off',
  "edit-drop": 'leave "{part}" behind',
  "edit-drop-count": 'leave {count} of "{part}" behind',
  "edit-merge": 'join the stacks of "{part}"',
  "edit-together": "{of}",
  // Bounds, and what would move them
  "bounded-by": "It is bounded by {stat}.",
  "bounded-on-body": 'It is bounded by {stat}, which comes to {value} on body "{body}".',
  // What is counted
  "of-part": 'of "{part}"',
  "of-tag": 'of the kind "{tag}"',
  "of-slot": 'in slot "{slot}"',
  // Conditions
  "a-stat": "the {stat}",
  "a-part": '"{part}"',
  "a-tag": 'something of the kind "{tag}"',
  "a-slot": 'something in slot "{slot}"',
  "a-body": 'body "{body}"',
  "an-outfit": 'the whole outfit "{outfit}"',
  "a-fact": '"{answer}" as "{fact}"',
  "a-signal": '"{id}"',
  "a-signal-of": '{id} "{value}"',
  "no-part": 'no "{part}"',
  "no-tag": 'nothing of the kind "{tag}"',
  "no-slot": 'nothing in slot "{slot}"',
  "no-body": 'a body other than "{body}"',
  "no-outfit": 'less than the whole outfit "{outfit}"',
  "no-fact": 'no "{answer}" as "{fact}"',
  "no-signal": 'no "{id}"',
  "no-signal-of": '{id} other than "{value}"',
  "any-of": "{of:or}",
  "all-of": "{of}",
  "either-of": "either {of:or}",
  "both-of": "both {of}",
} as const;

/** All of them: what the ready-made screens need. */
export const englishLoadouts = { ...problems, ...fixes, ...phrases } as const;
