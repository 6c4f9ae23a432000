/**
 * English sentences about what is looked at while a game is made: pictures, what is imported, whole catalogs. No player meets them.
 *
 * `{part}` stands for a parameter of that name, as everywhere.
 */

/** What is wrong. */
export const problems = {
  // Packs
  "conflicting-changes":
    'Pack "{other}" and pack "{pack}" both change "{id}" ({key}), each to something else. That of "{pack}" counts.',
  "cannot-remove-entry": '"{id}" cannot be taken away from {section}: characters may have it.',
  "namespace-of-other-pack": '"{id}" bears the name of pack "{pack}", and is not of it.',
  "nothing-to-change": 'There is no "{id}" in {section} to change.',
  "missing-needed-pack": 'Pack "{pack}" needs pack "{id}", which is not there.',
  "pack-for-other-catalog": 'Pack "{pack}" is made for catalog "{over}", and this is "{catalog}".',
  "duplicate-pack": 'Pack "{id}" is there twice: version {one}, and version {other}.',
  "circular-packs": "Each of these packs needs another of them, so that none can be the first: {packs}.",
  "part-excluded-by-pack": '"{part}" can never be worn with pack {packs}, and can without.',
  "retired-and-worn": '"{part}" is retired, and "{by}" still puts it on.',
  // Pictures of a catalog
  "missing-frame-files": "No file matches {path}.",
  "missing-picture": '"{owner}" needs this picture, and it is not there.',
  "unused-picture": "No layer uses this picture.",
  "cell-outside":
    '"{owner}" is drawn in {cellWidth}×{cellHeight} pixels at {x}, {y}, which reaches beyond the picture: that is {width}×{height} pixels.',
  "grid-mismatch":
    'The picture of "{owner}" is {width}×{height} pixels; its layer has {columns} columns by {rows} rows of {cellWidth}×{cellHeight} pixels, {allWidth}×{allHeight} in all.',
  "cell-count":
    'The layer of "{owner}" names {count} {count:one=cell;other=cells} for {frames} {frames:one=frame;other=frames}.',
  "steps-in-circle": 'Steps {steps} lead back to "{step}", so the creation never ends.',
  "never-answered": 'Nothing ever answers "{value}" to "{fact}", so this never holds.',
  "step-unreachable": 'Nobody is ever asked step "{step}".',
  "picture-called-otherwise":
    "The picture {path} is missing, and {meant} is not used: they are called the same but for case.",
  "frame-of-rig":
    'Every picture on the rig "{rig}" ({count} in all) has cells of {width}×{height} pixels; the frames of the rig are {frameWidth}×{frameHeight}.',
  "colors-not-srgb": "The colors of the picture are not sRGB ({space}); they are read as if they were.",
  // What pixels show
  "blank-frame": '"{owner}" shows nothing in {animation} {frames:bare}, and does in the frames beside.',
  "blank-series": '"{owner}" shows nothing in {animation} {facings:bare}, and does in other animations.',
  "same-picture": 'This picture of "{owner}" is the same, pixel by pixel, as {path} of "{other}".',
  "cut-by-frame":
    '"{owner}" is cut off by the edge of its cell at {x}, {y} ({count} {count:one=cell;other=cells} in all).',
  "color-near-key":
    '"{owner}" has {count} {count:one=pixel;other=pixels} of {color}, first at {x}, {y}: nearly a key color of "{channel}", and not recolored.',
  "animation-off-key":
    '"{owner}" has hardly any key color of "{channel}" in {animation}, and does in other animations.',
  "part-floats":
    '"{owner}" touches nothing of the figure in frame {frame} of {animation} {facing}, and does in others ({count} in all).',
  "part-away": '"{owner}" lies {distance} pixels from where the other parts in "{slot}" lie.',
  "part-small": '"{owner}" is {width}×{height} pixels, much smaller than all other parts in "{slot}".',
  "part-large": '"{owner}" is {width}×{height} pixels, much larger than all other parts in "{slot}".',
  "series-exchanged": '"{owner}" would fit much better if {one} and {other} were exchanged.',
  "frames-exchanged":
    '"{owner}" would fit much better in {animation} {facing} if its frames came in the order {order:bare}.',
  "part-baked-in":
    'The picture of the body "{body}" has the pixels of "{owner}" in it, so that it can never be taken off.',
  "stray-pixels":
    '"{owner}" has {count} {count:one=pixel;other=pixels} at {x}, {y} in frame {frame} of {animation} {facing} that {count:one=is;other=are} isolated, and in no adjacent frame.',
  "patch-left":
    '"{owner}" has a patch of {width}×{height} pixels at {x}, {y} of one color all over: background that was not erased.',
  "soft-pixels":
    '"{owner}" has {count} {count:one=pixel that is;other=pixels that are} half transparent, first at {x}, {y}, on a rig whose pixels are crisp.',
  "shows-through":
    '"{owner}" has a hole of {count} {count:one=pixel;other=pixels} at {x}, {y} in frame {frame} of {animation} {facing}, through which the body shows ({frames} in all).',
  "depth-tie":
    '"{owner}" and "{other}" both lie at depth {depth} in {facing}, and cover one another: only the order of their slots decides which is in front.',
  // Models of a catalog
  "model-missing": '"{owner}" needs this model, and it is not there.',
  "clip-missing": 'There is no clip "{clip}" for the animation "{animation}".',
  "joint-missing": 'There is no joint "{joint}", on which the point "{point}" is.',
  "mesh-missing": '"{owner}" shows a mesh "{mesh}", which is not in the file.',
  "mesh-misfit": '"{owner}" bends with joints that the rig "{rig}" does not have: {joints:bare}.',
  "mesh-loose":
    'The mesh "{mesh}" of "{owner}" has no skin and hangs on no point, so it does not move with the figure.',
  "pokes-through":
    'Skin of "{body}" shows through "{part}", at {time} s of {animation} facing {facing}: through {percent} % of it.',
  "mesh-floats": '"{part}" floats beside "{body}" when it is worn alone: nothing of it touches the skin.',
  "mesh-torn":
    '"{part}" is torn on "{body}" at {time} s of {animation}: two corners that lie together at rest are {times} times as far apart.',
  // What is imported
  "name-without-pattern": 'The name "{name}" does not have the form "{pattern}".',
  "name-unknown": '"{word}", in the name "{name}", is no {noun} of the rig.',
  "numbers-missing": "Of {animation} {facing}, the frames {missing} are missing: {found} of {frames} are there.",
  "numbers-beyond":
    "{animation} {facing} has {found} {found:one=frame;other=frames}, and {frames} in the rig: the last are left out.",
  "series-missing": "Nothing is drawn of {animation} {facing}.",
  "name-without-letters": 'No id can be made of the name "{name}".',
  "ids-clash": 'The names {names} all become the id "{id}".',
  "id-taken": 'There is "{id}" in the catalog already.',
  "file-taken": "There is a file {path} already.",
  speck: "A speck of {count} {count:one=pixel;other=pixels} is isolated at {x}, {y}.",
  patch: "A patch of {width}×{height} pixels at {x}, {y} is of one color all over: background that was not erased.",
  "rows-mismatch":
    "The figures are in {rows} rows; a row for each animation and {facings} facings makes {max} at the most.",
  "nothing-drawn": '"{name}" shows nothing.',
  "sheet-mismatch":
    "The picture is {width}×{height} pixels; in this layout the rig has {columns} columns by {rows} rows of {cellWidth}×{cellHeight} pixels, {allWidth}×{allHeight} in all.",
  "no-slot-for-part": 'The slot of "{name}" is not given.',
  "no-depth-for-part": 'The depth of "{name}" is not given.',
  "no-place-for-fragment": "catalog.json includes no folder that a file can be put in.",
  "recolor-of-part": '"{other}" is "{part}" in other colors: {count} of them, one for one.',
  "same-as-part": '"{other}" is the same picture as "{part}".',
  "table-without-pattern": "The table is plain text, and the pattern of its lines is not given.",
  "pages-left": "{count} more {count:one=picture is;other=pictures are} listed on further pages.",
  "table-without-pictures": "The table lists no frames.",
  "line-without-pattern": "Line {line} of the table does not have the form of the others: {text}",
  "blend-mode": 'The layer "{name}" is blended by "{mode}", which cannot be kept in a part.',
  // What is imported of models
  "model-no-gltf": "This is not a glTF 2.0 file that can be read.",
  "model-container": "The file is cut short, or its chunks do not fit into it.",
  "model-file-missing": "It names a file {path}, which is not there, or lies outside of the folder of the model.",
  "model-needs-extension": "It cannot be read without {extensions}, which are not read here.",
  "model-refused": "It cannot be read: {reason}.",
  "model-too-large": "There are {count} of these, and no more than {max} may be.",
  "model-without-buffer": "The bytes of this buffer are not there.",
  "model-cut-short": "The buffer is cut short: there are {bytes} bytes of it.",
  "model-not-there": "There is no number {value}: there {count:one=is;other=are} {count}.",
  "model-value": "This has to be {count} finite numbers.",
  "model-node-twice": "A node is under two others, or under itself.",
  "model-too-deep": "Nodes are nested more than {max} deep.",
  "model-beyond": "This reaches beyond its bytes, or has no size.",
  "extensions-left": "It uses {extensions}, which are left out.",
  "not-numbers": 'The mesh "{mesh}" has values in {what} that are no numbers, or joints that are not there.',
  "many-weights":
    'Of the mesh "{mesh}", {count} {count:one=corner follows;other=corners follow} more than four joints: the strongest four are kept.',
  "weights-mended":
    'Of the mesh "{mesh}", {count} {count:one=corner;other=corners} had weights that were not 1 together: they are made so.',
  "negative-scale": 'The mesh "{mesh}" is mirrored by a negative scale, so that some engines show it inside out.',
  "no-meshes": "There is no mesh in the file.",
  "no-skeleton": "No mesh of the file bends with joints, so there is no skeleton.",
  "prop-on-joint":
    'The mesh "{mesh}" has no skin and hangs on the joint "{joint}": it becomes a part that hangs there, and can be taken off.',
  "mesh-on-nothing": 'The mesh "{mesh}" has no skin and hangs on no joint, so it would not move with the figure.',
  "other-skeleton": 'The mesh "{mesh}" bends with another skeleton than the rest.',
  "idle-joints": "No mesh follows these joints: {joints:bare}.",
  "piece-alone": 'The mesh "{mesh}" touches nothing of the body, and hangs in the air when "{near}" is off.',
  alternatives: "The meshes {meshes} are in one place: as parts of one slot, one of them is worn at a time.",
  "no-slot-for-mesh": 'The slot of the mesh "{mesh}" is not given.',
  "skeleton-misses": 'The rig "{rig}" has no joints {joints:bare}, which this figure follows.',
  "skeleton-renamed": 'Joints of the rig "{rig}" are called otherwise here: {joints:bare}. They get its names.',
  "skeleton-posed":
    'The figure rests in another pose than the rig "{rig}": "{joint}" differs by {degrees} degrees and {units} units.',
  "skeleton-rebound":
    'The figure rests in another pose than the rig "{rig}" ("{joint}" differs by {degrees} degrees and {units} units): it is brought into that, and bound to it.',
  "skeleton-twisted":
    'The rig "{rig}" counts the turns of joints from other axes: {joints:bare} would lie elsewhere, so the figure cannot be bound to it.',
  "drawing-mismatch":
    "The layers of the drawing, laid over one another, differ from the picture of the whole that is in the file.",
} as const;

/** What to do. */
export const fixes = {
  // Packs
  "mend-conflicting-changes": 'If that is meant, name "{other}" in "needs" of "{pack}"; else leave one of them out.',
  "mend-cannot-remove-entry": "Leave it, or change what is said of it.",
  "mend-nothing-to-change":
    'Name one of the catalog or of a pack that is there; new {section} belong outside of "changes".',
  "mend-missing-needed-pack": 'Add pack "{id}".',
  "mend-pack-for-other-catalog": 'Lay it over the catalog it is made for, or write "{catalog}".',
  "mend-duplicate-pack": "Leave one of the two out.",
  "mend-circular-packs": 'Take one of them out of "needs".',
  "mend-part-excluded-by-pack": "Loosen the rule, or retire the part: characters that have it keep it.",
  "mend-retired-and-worn": "Name another part, or do not retire it.",
  "add-namespace": 'Call it "{name}", after its pack; to change what is there, write it under "changes".',
  "retire-part": 'Retire it, by "retired": true. Whoever has it keeps it.',
  "write-change": 'There is one already: write what is to be different under "changes".',
  "mend-missing-frame-files":
    'Correct the path, or give the layer "names" if files call animations or facings something else.',
  "mend-missing-picture": "Draw it, or correct the path in its layer.",
  "mend-unused-picture": "Name it in a layer, or remove the file.",
  "mend-cell-outside": "Move or shrink the cells of the layer, or enlarge the picture.",
  "mend-cell-count":
    "Give {frames} {frames:one=cell;other=cells}, by animation, then facing, then frame, with null where nothing is drawn.",
  "swap-rows": "Rows and columns are swapped: lay frames out in columns, and animations and facings in rows.",
  "say-grid": 'If its cells are {width}×{height} pixels, give the layer a "layout" with a "cell" of that size.',
  "say-border":
    'Its cells have lines between them: give the layer a "layout" with a "margin" of {margin} and a "spacing" of {spacing}.',
  "scale-picture":
    "It was drawn at {factor} times the size of the rig, {width}×{height} pixels a cell: store it at the size of the rig.",
  "say-any-facing":
    'It holds {held} of {rows} rows, as for one facing: give the layer "facings": "any" if it looks the same from all sides. If some animations are not drawn, list those that are in "animations".',
  "list-animations":
    'It holds {columns} columns by {rows} rows; if some animations are not drawn, list those that are in "animations".',
  "resize-picture": "Make the picture the size of its layer; a row or a column is cut short.",
  "mend-steps-in-circle": "Let one of them lead on.",
  "mend-step-unreachable": "Let a step lead to it, or remove it.",
  "rename-picture": "Rename it to {path}.",
  "mend-frame-of-rig": "Set the frame of the rig to {width}×{height}, and its origin with it.",
  "mend-colors-not-srgb": "Store it as sRGB, or without a profile.",
  "mend-blank-frame": "Draw it, or let the table or the cells leave it out.",
  "mend-blank-series":
    'Draw it, or leave the animation out of the "animations" of the layer, so that another is shown.',
  "mend-same-picture": "Put its own picture there.",
  "mend-cut-by-frame": 'Move it in, or give the picture a "layout".',
  "mend-color-near-key": "Paint them in {color}.",
  "mend-animation-off-key": "Paint it in the colors of the key: {key}.",
  "mend-part-floats": "Move it to where it is worn.",
  "mend-part-away": "Move it, or draw it at the size of the rig.",
  "mend-part-scale": "Draw it at the size of the rig.",
  "mend-series-exchanged": 'Exchange them, or give their order in "animations" and "facings".',
  "mend-frames-exchanged": "Put them in that order.",
  "mend-part-baked-in": "Erase it from the body.",
  "mend-stray-pixels": "Erase them.",
  "mend-patch-left": 'Erase it, or give "blank" its color, {color}.',
  "mend-soft-pixels": 'Paint them opaque or erase them, or leave "crisp" out of the rig "{rig}".',
  "mend-shows-through": "Paint over it.",
  "mend-depth-tie": "Give one of them another depth, in its layer or in the depths of the rig.",
  "mend-name-without-pattern": "Rename it, or give another pattern.",
  "say-names": 'Give the meaning of "{word}" in "names".',
  "mend-numbers-missing": "Add the files, or leave it: these frames show nothing.",
  "mend-numbers-beyond": "Raise the number of frames in the rig, or pick a sequence of them there.",
  "mend-series-missing": "Add it, or leave it: the rig decides what is shown in its place.",
  "rename-it": "Give it a name with letters from a to z.",
  "rename-one": "Rename all but one.",
  "say-replace": 'Rename it, or set "replace"; only parts of the file that is written can be replaced.',
  "say-drop": 'Erase it, or set "drop" to {count}, to leave out all that is as small.',
  "mend-patch": 'Erase it, or give "blank" its color, {color}.',
  "mend-rows-mismatch": "Move figures of one row to one height, or allow more between what belongs together.",
  transpose: 'Frames and rows are exchanged: give "across" with animation and facing.',
  "say-animations": 'It has {rows} rows, one for each facing of {count}: name their animations in "animations".',
  "say-still": 'It has one frame for each facing: set "still" if that is for all animations.',
  "say-cell": 'Give its layout, or the size of its cells in "cell".',
  "say-slot": 'Give its "slot".',
  "say-depth": 'Give a "depth", or give the rig one for the slot, in its "depths".',
  "include-folder": 'Add "parts/*.json" to its "include".',
  "mend-pages-left": "Import each page by itself, with its picture.",
  "mend-table": 'Give the pattern of its lines, "lines".',
  "mend-drawing-mismatch": "Store the drawing again; if it still differs, it uses something that is not kept here.",
  "make-channel":
    'Import only "{part}", with a channel whose key is {key}, and give that the ramp {ramp}: then one part has all colors.',
  "mend-same-as-part": "Leave one of them out, unless they will differ.",
  "mend-model-missing": "Correct its path, or import its figure again.",
  "mend-clip-missing": 'Name it in the "clips" of the rig, or give the animation an "else".',
  "mend-joint-missing": "Correct its name, as the file has it.",
  "mend-mesh-missing": "Name one of {meshes:or}.",
  "mend-mesh-misfit": "Import its figure again, on this rig.",
  "mend-mesh-loose": 'Give it an "attach".',
  "export-again": "Export it again, or correct it in the program it comes from.",
  "mend-extensions-left": "Look at the materials of the parts afterwards.",
  "mend-negative-scale": "Apply the scale in the program it comes from.",
  "mend-mesh-on-nothing": "Bind it to the skeleton, or hang it on a joint.",
  "mend-other-skeleton": "Bind it to the same joints, or import it by itself on a rig of its own.",
  "mend-piece-alone": "Add a rule: {rule}",
  "say-piece": "Write it in the file of --choices: {entry}",
  "mend-skeleton-misses": "Import it on a rig of its own.",
  "mend-pokes-through": 'Hide the skin under it ("hides": ["body/…"]), or give it the weights that the skin has there.',
  "mend-mesh-torn": "Look at the weights there: one of the corners follows a joint that is far away.",
  "say-rebind": "Run again with --rebind to bring it into the pose of the rig, or do that where it was made.",
  "mend-skeleton-posed": "Bring it into the pose of the rig, and bind it again.",
  "make-normal": "Merge it into another layer, or set it to normal.",
} as const;

/** Why a layer does not show. */
export const phrases = {
  "concealed-by": 'Outfit "{outfit}" conceals it.',
  "form-has-own-art": 'Form "{form}" has other pictures of the body.',
  "form-shows-another": 'Form "{form}" shows something else there.',
  "for-other-slot": 'It is for slot "{slot}".',
  "for-other-form": "It is shown in {forms:or}.",
  "not-in-form": 'It is not shown in form "{form}".',
  "hidden-by": '"{part}" hides it.',
  "for-other-hand": "In this facing the layer for the other hand is shown.",
  "not-drawn-for": 'It is not drawn for "{animation}".',
  "nothing-in-frame": "Nothing of it is in this frame.",
  "point-not-seen": 'The point "{point}" is not seen in this frame.',
} as const;
