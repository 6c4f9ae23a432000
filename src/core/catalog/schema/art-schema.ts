import { limits } from "../../base/limits.ts";
import * as f from "../../base/schema/forms.ts";
import { id, text, word } from "./schema-forms.ts";

/** A color, `#rrggbb`. */
export const color = f.string(f.pattern(/^#[0-9a-fA-F]{6}$/));
/** A whole number from 0. */
export const whole = f.number(f.whole, f.min(0));
const point = f.tuple([f.number(f.whole), f.number(f.whole)]);
const side = f.number(f.whole, f.min(1), f.max(limits.frameSize));
const rectangle = f.tuple([f.number(f.whole), f.number(f.whole), side, side]);
const size = f.object({
  /** In pixels, to the right. */
  width: side,
  /** In pixels, down. */
  height: side,
});

/** Where a picture is hung: the pixel `at` of it lies on the point, and the line from `at` to `along` looks toward another point. */
const attachment = f.object({
  /** The point that the picture is hung on, such as `hand-left`. */
  point: id,
  /** The pixel of its cell that lies on the point, from the upper left. The middle of the cell when left out. */
  at: f.optional(point),
  /** A second point, which the line from `at` to `along` is turned toward. */
  toward: f.optional(id),
  /** A second pixel of its cell; goes with `toward`. */
  along: f.optional(point),
});

const axes = f.array(f.picklist(["animation", "facing", "frame"]), f.maxLength(3));
const count = f.bounded(whole, f.min(1), f.max(limits.frameSize));
const pixels = f.bounded(whole, f.max(limits.frameSize));

const layout = f.object({
  /** The size of one cell of the picture. The rig's frame when left out. */
  cell: f.optional(size),
  /** Where the upper left corner of a cell lies in the rig's frame; may be negative. */
  at: f.optional(point),
  /** What changes from the left to the right, what changes last first. Frames when left out. */
  across: f.optional(axes),
  /** What changes from the top down, what changes last first. Animations, then facings, when left out. */
  down: f.optional(axes),
  /** After so many cells the next line begins below. */
  columns: f.optional(count),
  /** After so many cells the next line begins to the right. */
  rows: f.optional(count),
  /** Pixels around all cells. */
  margin: f.optional(pixels),
  /** Pixels between one cell and the next. */
  spacing: f.optional(pixels),
});

const depth = f.union([
  f.number(),
  f.objectWithRest(
    {
      /** In facings that are not named beside it. */
      default: f.number(),
    },
    f.number(),
  ),
]);
/** A slot, or one group of its layers: `hair/top`. */
export const layerGroup = f.string(f.pattern(/^[a-z0-9.-]+(\/[a-z0-9.-]+)?$/));
/** A share, from 0 to 1. */
export const fraction = f.number(f.min(0), f.max(1));
/** A path inside the catalog folder. */
export const path = f.string(f.minLength(1));

/** One picture of a part or body at a depth. */
export const layer = f.object({
  /** Path of the PNG inside the catalog folder. `{body}` stands for the body; `{animation}`, `{facing}` and `{frame}` make it one file a frame. */
  image: path,
  /** Path of a frames table, which says where each frame lies in the picture. */
  frames: f.optional(path),
  /** How near it is to the viewer: greater is nearer. One number, or one for each facing with a `default`. The rig's for its slot when left out. */
  depth: f.optional(depth),
  /** The channel that colors it: pixels of its key colors take the colors of the chosen ramp. */
  channel: f.optional(id),
  /** A name by which others can hide it: `hair/top` is the group `top` of the slot `hair`. */
  group: f.optional(id),
  /** Shown only while the part is worn in this slot; for parts that go in several. */
  in: f.optional(id),
  /** From 0, not seen, to 1. */
  opacity: f.optional(fraction),
  /** The animations drawn in its picture, in the order of its rows. All of the rig's when left out. */
  animations: f.optional(f.array(id, f.minLength(1))),
  /** What to show for an animation that is not drawn, by animation; `false` shows nothing then. */
  else: f.optional(f.union([f.literal(false), f.record(id, id)])),
  /** The facings drawn in its picture, in their order, a mirrored one too if it has art of its own. `any` is one picture for all of them. */
  facings: f.optional(f.union([f.literal("any"), f.array(id, f.minLength(1))])),
  /** One picture for every animation and frame. */
  still: f.optional(f.boolean()),
  /** Hangs the picture on a point of the figure. */
  attach: f.optional(attachment),
  /** Moves it by pixels of the frame, for all bodies or by body. */
  offset: f.optional(f.union([point, f.record(id, point)])),
  /** How many pixels large each of its pixels is drawn, for all bodies or by body. */
  scale: f.optional(f.union([f.number(f.above(0)), f.record(id, f.number(f.above(0)))])),
  /** The forms in which it is shown. In all, and in none, when left out. */
  forms: f.optional(f.array(id, f.minLength(1))),
  /** The forms in which it is not shown. */
  notForms: f.optional(f.array(id, f.minLength(1))),
  /** How its picture is laid out, or the name of one of the rig's layouts. */
  layout: f.optional(f.union([id, layout])),
  /** How many columns of cells lie left of its first. */
  column: f.optional(pixels),
  /** How many rows of cells lie above its first. */
  row: f.optional(pixels),
  /** The column and row of each frame, by animation, then facing, then frame; `null` where nothing is drawn. */
  cells: f.optional(f.array(f.nullable(f.tuple([pixels, pixels])), f.minLength(1), f.maxLength(limits.bakedFrames))),
  /** What files of one frame call an animation or a facing, by its id. */
  names: f.optional(f.record(id, path)),
  /** Where the origin lies in files of one frame, from 0 (left, top) to 1 (right, bottom). The middle of the bottom when left out. */
  anchor: f.optional(f.tuple([fraction, fraction])),
  /** A color of its picture that means nothing is there. */
  blank: f.optional(color),
});

const triple = f.tuple([f.number(), f.number(), f.number()]);

/** A mesh of a glTF file, as a body or a part shows it. */
export const mesh = f.object({
  /** Path of the glTF file inside the catalog folder. `{body}` stands for the body. */
  file: path,
  /** The name of the node that shows it. All meshes of the file when left out. */
  node: f.optional(path),
  /** A name by which others can hide it: `body/torso` is the group `torso` of the body. */
  group: f.optional(id),
  /** Shown only while the part is worn in this slot; for parts that go in several. */
  in: f.optional(id),
  /** The channel that colors it. */
  channel: f.optional(id),
  /** Channels by the names of materials. */
  channels: f.optional(f.record(path, id)),
  /** The point it hangs on, without a skin. Left out for a mesh that bends with the skeleton. */
  attach: f.optional(id),
  /** The forms in which it is shown. In all, and in none, when left out. */
  forms: f.optional(f.array(id, f.minLength(1))),
  /** The forms in which it is not shown. */
  notForms: f.optional(f.array(id, f.minLength(1))),
});

const jointPoint = f.object({
  /** The name of the joint it moves with. */
  joint: path,
  /** From the joint, along its axes, in units of the model. */
  offset: f.optional(triple),
});

const rigModel = f.object({
  /** Path of the glTF file that has the skeleton. `{body}` stands for the body. */
  file: path,
  /** The names of clips in the file, by animation. The others are called as their animation is. */
  clips: f.optional(f.record(id, path)),
  /** Pixels of the rig's frame for a unit of the model. */
  scale: f.optional(f.number(f.above(0))),
  /** Degrees by which one looks down on the figure. */
  tilt: f.optional(f.number()),
  /** How wide lines of ink are, in pixels of the rig's frame; 0 draws none. */
  ink: f.optional(f.number(f.min(0))),
  /** Degrees by which the figure is turned around, against the clock seen from above, by facing; 0 looks at the viewer. */
  turns: f.optional(f.record(id, f.number())),
  /** Places that meshes hang on, by name: a joint, or a place beside one. */
  points: f.optional(f.record(id, f.union([path, jointPoint]))),
});

/** By point, animation and drawn facing: one place for all frames, or one for each; `null` where it is not seen. */
const framedPoints = f.record(
  id,
  f.record(id, f.record(id, f.union([point, f.array(f.nullable(point), f.minLength(1))]))),
);

/** Places of the figure, frame by frame. */
export const points = f.union([
  f.object({
    /** Path of the marker picture, laid out like any sheet, with one pixel of the point's color in each cell where it is seen. */
    image: f.string(f.minLength(1)),
    /** The color that marks each point, by the point's name. */
    colors: f.record(id, color),
  }),
  f.object({
    /** Places by point, animation and drawn facing: one for all frames, or one for each; `null` where it is not seen. */
    frames: framedPoints,
  }),
]);

const facing = f.object({
  /** What the facing is called in the game and in the catalog. */
  id,
  /** The drawn facing that it is the mirror image of. Drawn itself when left out. */
  mirror: f.optional(id),
  /** What players call it. */
  title: f.optional(text),
});

/** What parts share in order to fit together. */
export const rig = f.object({
  /** What it is called by those who make the game. */
  title: f.optional(text),
  /** The size of one frame. */
  frame: size,
  /** Where the figure stands inside the frame: the game places this point, and a mirrored facing is turned around it. */
  origin: point,
  /** The directions a figure can face: drawn ones, and mirror images of drawn ones. */
  facings: f.array(f.union([id, facing]), f.minLength(1)),
  /** The movements of the figure, in the order of the rows of its pictures. */
  animations: f.record(
    id,
    f.object({
      /** What players call it. */
      title: f.optional(text),
      /** How many frames are drawn. */
      frames: f.number(f.whole, f.min(1), f.max(limits.frames)),
      /** How many frames are shown in a second. */
      fps: f.optional(f.number(f.above(0))),
      /** The order in which frames are shown: backward, forth and back, or picked ones, each counted from 0. */
      sequence: f.optional(
        f.union([
          f.picklist(["reverse", "back-and-forth"]),
          f.array(whole, f.minLength(1), f.maxLength(limits.frames)),
        ]),
      ),
      /** How long each shown frame lasts, in seconds; in place of `fps`. */
      durations: f.optional(f.array(f.number(f.above(0)), f.minLength(1), f.maxLength(2 * limits.frames))),
      /** What is emitted when a frame begins, by the frame, counted from 0: a word of the game's own, such as `step`, or several. */
      events: f.optional(f.record(f.string(f.pattern(/^\d{1,3}$/)), f.union([word, f.array(word, f.minLength(1))]))),
      /** Whether it begins again at its end. One that does not stays on its last frame. */
      loop: f.optional(f.boolean()),
      /** The animation shown by a layer that was not drawn for this one. */
      else: f.optional(id),
    }),
  ),
  /** Places of the figure that layers are attached to and crops are placed by: from a marker picture, or as numbers. */
  points: f.optional(points),
  /** Whether every pixel is all there or not at all, so that one that is half transparent is a mistake. */
  crisp: f.optional(f.boolean()),
  /** The skeleton, for figures in three dimensions. */
  model: f.optional(rigModel),
  /** How pictures are laid out that do not say it themselves, or the name of one of the layouts. */
  layout: f.optional(f.union([id, layout])),
  /** Layouts by name, for layers that name one. */
  layouts: f.optional(f.record(id, layout)),
  /** Depths by slot, `hat`, or by slot and group, `hat/back`; for layers that have none of their own. */
  depths: f.optional(f.record(layerGroup, depth)),
  /** Pairs of slots and points that change places in a mirrored facing: what is held stays in the hand it is in. */
  twins: f.optional(f.array(f.tuple([id, id]))),
  /** Cut-outs of one frame, by name, such as a portrait. */
  crops: f.optional(
    f.record(
      id,
      f.object({
        /** The animation of which the first frame is taken. */
        animation: id,
        /** The facing of that frame. */
        facing: id,
        /** The point that the rectangle is placed by. The corner of the frame when left out. */
        point: f.optional(id),
        /** Left, top, width and height in pixels. */
        rect: rectangle,
        /** Keeps only the ellipse that fits the rectangle. */
        round: f.optional(f.boolean()),
        /** A color behind the figure. Nothing when left out. */
        back: f.optional(color),
        /** A color around a round crop, one pixel wide. */
        rim: f.optional(color),
      }),
    ),
  ),
});

/** A rectangle that touches others. */
export const collider = f.object({
  /** Left edge in pixels, from the origin. */
  x: f.number(),
  /** Upper edge in pixels, from the origin. */
  y: f.number(),
  /** In pixels. */
  width: f.number(),
  /** In pixels. */
  height: f.number(),
});

/** A cylinder with half balls on both ends, which touches others. */
export const capsule = f.object({
  /** In units of the model. */
  radius: f.number(f.above(0)),
  /** From the ground to its top, in units of the model. */
  height: f.number(f.above(0)),
});

export type LayerSource = f.Valid<typeof layer>;
export type MeshSource = f.Valid<typeof mesh>;
export type LayoutSource = f.Valid<typeof layout>;
export type DepthSource = f.Valid<typeof depth>;
export type RigSource = f.Valid<typeof rig>;
export type PointsSource = f.Valid<typeof points>;
