/**
 * The path of a file that a model names, in the folder of the catalog.
 *
 * @param model - the path of the model. @param uri - as the model has it, relative to itself (RFC 3986, §5.2.4).
 */
export function besideModel(model: string, uri: string): string {
  const way = model.split("/").slice(0, -1);
  for (const step of decoded(uri).split("/")) {
    // What leads out of the folder still does.
    if (step === ".." && way.length > 0 && way.at(-1) !== "..") way.pop();
    else if (step !== ".") way.push(step);
  }
  return way.join("/");
}

function decoded(uri: string): string {
  try {
    return decodeURIComponent(uri);
  } catch {
    return uri;
  }
}
