/** Where a layer says that its frames lie. */
interface FramesOf {
  readonly image: string;
  readonly frames?: string | undefined;
}

/** Whether a path stands for one file a frame. */
export function isNumbered(image: string): boolean {
  return image.includes("{") && /\{(animation|facing|frame)\b/.test(image);
}

/** Whether the frames of a layer are found in a table: one that it names, or the one made of the files its path stands for. */
export function isTabled({ image, frames }: FramesOf): boolean {
  return frames !== undefined || isNumbered(image);
}

/** The path of the table of a layer on a body. @param artName - what `{body}` stands for. */
export function tablePath({ image, frames }: FramesOf, artName: string): string {
  return (frames ?? image).replaceAll("{body}", artName);
}
