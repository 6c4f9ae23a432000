import {
  DataTexture,
  DoubleSide,
  DynamicDrawUsage,
  type Group,
  InstancedBufferAttribute,
  InstancedMesh,
  type Matrix4,
  MeshBasicMaterial,
  NearestFilter,
  PlaneGeometry,
  SRGBColorSpace,
  type Texture,
} from "three";
import type { Rectangle } from "../../core/catalog/model/catalog.ts";
import type { AtlasPage } from "../../core/raster/atlas-page.ts";
import type { Atlas, AtlasFrame } from "../../core/raster/open-atlas.ts";

/** All figures on a page: planes of one draw call. */
interface PageMesh {
  readonly texture: DataTexture;
  readonly mesh: InstancedMesh<PlaneGeometry, MeshBasicMaterial>;
  /** Where each lies in the page, and around its origin: left, top, width and height, in pixels. */
  readonly source: InstancedBufferAttribute;
  readonly placed: InstancedBufferAttribute;
  readonly room: number;
}

/** How many planes a mesh has room for at first; it doubles. */
const firstRoom = 16;

/** The meshes of an atlas, one for each page. */
export class PageMeshes {
  readonly #atlas: Atlas;
  readonly #group: Group;
  readonly #unit: number;
  readonly #pages = new Map<AtlasPage, PageMesh>();

  /** @param unit - what a pixel is in the scene. */
  constructor(atlas: Atlas, group: Group, unit: number) {
    this.#atlas = atlas;
    this.#group = group;
    this.#unit = unit;
    atlas.on("drop-page", (page) => {
      const made = this.#pages.get(page);
      if (made === undefined) return;
      this.#pages.delete(page);
      dispose(made);
      made.texture.dispose();
    });
  }

  /** Begins to lay all figures anew. */
  begin(): void {
    for (const { mesh } of this.#pages.values()) mesh.count = 0;
  }

  /** Lays a frame where its figure stands. */
  lay({ page, x, y, width, height, left, top }: AtlasFrame, matrix: Matrix4): void {
    if (page === undefined) return;
    const { mesh, source, placed } = this.#meshOf(page);
    const number = mesh.count;
    mesh.count += 1;
    mesh.setMatrixAt(number, matrix);
    source.setXYZW(number, x, y, width, height);
    placed.setXYZW(number, left, top, width, height);
  }

  /** Hands over what changed. */
  upload(): void {
    this.#atlas.flush((page, changed) => {
      const texture = this.#pages.get(page)?.texture;
      if (texture === undefined) return;
      limitUpdate(texture, page, changed);
      texture.needsUpdate = true;
    });
    for (const { mesh, source, placed } of this.#pages.values()) {
      mesh.visible = mesh.count > 0;
      mesh.instanceMatrix.needsUpdate = source.needsUpdate = placed.needsUpdate = true;
    }
  }

  /** The mesh of a page, with room for one more. */
  #meshOf(page: AtlasPage): PageMesh {
    const known = this.#pages.get(page);
    if (known !== undefined && known.mesh.count < known.room) return known;
    const texture = known?.texture ?? textureOf(page);
    const made = makeMesh(texture, page, this.#unit, (known?.room ?? firstRoom / 2) * 2);
    if (known !== undefined) {
      made.mesh.instanceMatrix.array.set(known.mesh.instanceMatrix.array);
      made.source.array.set(known.source.array);
      made.placed.array.set(known.placed.array);
      made.mesh.count = known.mesh.count;
      dispose(known);
    }
    this.#group.add(made.mesh);
    this.#pages.set(page, made);
    return made;
  }
}

/** Textures that are on the graphics card as a whole. */
const uploaded = new WeakSet<Texture>();

/** Where three can, only the rows that changed go to the graphics card, unless they are most of the page, or nothing of it is there yet. */
function limitUpdate(texture: DataTexture, { size }: AtlasPage, { x, y, width, height }: Rectangle): void {
  if (!("addUpdateRange" in texture) || !uploaded.has(texture) || height > size / 4) return;
  for (let row = y; row < y + height; row += 1) texture.addUpdateRange((row * size + x) * 4, width * 4);
}

function textureOf({ data, size }: AtlasPage): DataTexture {
  const texture = new DataTexture(data as Uint8ClampedArray<ArrayBuffer>, size, size);
  texture.colorSpace = SRGBColorSpace;
  texture.magFilter = texture.minFilter = NearestFilter;
  texture.onUpdate = () => uploaded.add(texture);
  texture.needsUpdate = true;
  return texture;
}

function makeMesh(texture: DataTexture, { size }: AtlasPage, unit: number, room: number): PageMesh {
  const geometry = new PlaneGeometry(1, 1);
  const [source, placed] = [0, 1].map(() => {
    const attribute = new InstancedBufferAttribute(new Float32Array(room * 4), 4);
    attribute.setUsage(DynamicDrawUsage);
    return attribute;
  }) as [InstancedBufferAttribute, InstancedBufferAttribute];
  geometry.setAttribute("source", source);
  geometry.setAttribute("placed", placed);
  const mesh = new InstancedMesh(geometry, materialOf(texture, size, unit), room);
  mesh.instanceMatrix.setUsage(DynamicDrawUsage);
  mesh.count = 0;
  // Its planes are placed in the scene, wherever the group is.
  mesh.matrixAutoUpdate = mesh.matrixWorldAutoUpdate = false;
  mesh.frustumCulled = false;
  // The figures are hit, and not their planes.
  mesh.raycast = () => undefined;
  return { texture, mesh, source, placed, room };
}

/** A plane takes the size of its frame, lies around its origin as the frame does, and shows its part of the page, in the colors it has there. */
function materialOf(texture: DataTexture, size: number, unit: number): MeshBasicMaterial {
  const material = new MeshBasicMaterial({
    map: texture,
    transparent: true,
    alphaTest: 1 / 255,
    side: DoubleSide,
    toneMapped: false,
  });
  material.onBeforeCompile = (shader) => {
    const corner = "vec2(position.x + 0.5, 0.5 - position.y)";
    shader.vertexShader = `attribute vec4 source;\nattribute vec4 placed;\n${shader.vertexShader}`
      .replace(
        "#include <uv_vertex>",
        `#include <uv_vertex>\nvMapUv = (source.xy + ${corner} * source.zw) / ${size.toFixed(1)};`,
      )
      .replace(
        "#include <begin_vertex>",
        `vec2 drawn = placed.xy + ${corner} * placed.zw;\nvec3 transformed = vec3(drawn.x, -drawn.y, 0.0) * ${unit.toFixed(9)};`,
      );
  };
  material.customProgramCacheKey = () => `drawn figures ${size} ${unit}`;
  return material;
}

/** Gives a mesh back, and not its texture. */
function dispose({ mesh }: PageMesh): void {
  mesh.removeFromParent();
  mesh.geometry.dispose();
  mesh.material.dispose();
  mesh.dispose();
}
