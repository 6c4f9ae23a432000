import {
  BackSide,
  Color,
  DoubleSide,
  FrontSide,
  type Material,
  ShaderMaterial,
  type Texture,
  UniformsLib,
  UniformsUtils,
  Vector3,
} from "three";
import { folds, light, type Shading } from "../../core/model/shading.ts";

const vertexHead = `
#include <common>
#include <skinning_pars_vertex>
#include <fog_pars_vertex>
#ifdef OUTWARD
attribute vec3 outward;
#endif
#if defined(OPENNESS) || defined(TINTED)
attribute vec4 color;
#endif
varying vec3 vDirection;
varying float vOpen;
#ifdef TINTED
varying vec3 vTint;
#endif
#ifdef PLACE
varying vec2 vPlace;
#endif
`;

const vertexBody = `
  #include <beginnormal_vertex>
  #ifdef OUTWARD
  objectNormal = outward;
  #endif
  #include <skinbase_vertex>
  #include <skinnormal_vertex>
  #include <begin_vertex>
  #include <skinning_vertex>
  #include <project_vertex>
  vDirection = normalize(normalMatrix * objectNormal);
  #ifdef OPENNESS
  vOpen = color.r;
  #else
  vOpen = 1.0;
  #endif
  #ifdef TINTED
  vTint = color.rgb;
  #endif
  #ifdef PLACE
  vPlace = PLACE;
  #endif
`;

const rampVertex = `${vertexHead}
void main() {
  ${vertexBody}
  #include <fog_vertex>
}`;

const rampFragment = `
#include <common>
#include <fog_pars_fragment>
uniform vec3 tones[TONES];
uniform float cuts[TONES];
uniform vec3 light;
varying vec3 vDirection;
varying float vOpen;
#ifdef TINTED
varying vec3 vTint;
#endif
#ifdef PLACE
uniform sampler2D map;
uniform float cutoff;
varying vec2 vPlace;
#endif
void main() {
  #ifdef PLACE
  vec4 painted = texture2D(map, vPlace);
  if (painted.a < cutoff) discard;
  #endif
  vec3 direction = normalize(vDirection);
  #ifdef DOUBLE_SIDED
  if (!gl_FrontFacing) direction = -direction;
  #endif
  #ifdef GLOWS
  float lit = 0.5 + 0.5 * direction.z;
  #else
  float lit = 0.5 + 0.5 * dot(direction, light);
  #endif
  lit *= 1.0 - ${folds.toFixed(2)} * (1.0 - vOpen);
  // Each step is a pixel wide, so that it has no teeth.
  float soft = 0.7 * fwidth(lit);
  vec3 tone = tones[0];
  for (int each = 1; each < TONES; each += 1)
    tone = mix(tone, tones[each], smoothstep(cuts[each] - soft, cuts[each] + soft, lit));
  #ifdef TINTED
  tone *= vTint;
  #endif
  #ifdef PLACE
  tone *= painted.rgb;
  #endif
  gl_FragColor = vec4(tone, 1.0);
  #include <colorspace_fragment>
  #include <fog_fragment>
}`;

const inkVertex = `${vertexHead}
uniform float width;
uniform float behind;
void main() {
  ${vertexBody}
  mvPosition.xyz += vDirection * width;
  gl_Position = projectionMatrix * mvPosition;
  // Behind all of the figure, it is seen around it only.
  vec4 pushed = projectionMatrix * (mvPosition - vec4(0.0, 0.0, behind, 0.0));
  gl_Position.z = pushed.z / pushed.w * gl_Position.w;
  #include <fog_vertex>
}`;

const inkFragment = `
#include <common>
#include <fog_pars_fragment>
uniform vec3 ink;
void main() {
  gl_FragColor = vec4(ink, 1.0);
  #include <colorspace_fragment>
  #include <fog_fragment>
}`;

/** How far behind the figure its outline is drawn, in widths of it. */
const farBehind = 10;

/** What of a mesh besides its tones its picture depends on. */
export interface Surface {
  readonly map: Texture | undefined;
  /** How opaque its texture has to be where it is seen. */
  readonly cutoff: number;
  /** What the colors of its corners say: how open they lie, or a color that its tones are multiplied by. */
  readonly colors: "openness" | "tint" | undefined;
  readonly isDoubleSided: boolean;
}

/** A material that steps through the tones of a ramp. */
export function rampMaterial(
  { tones, cuts, glows }: Shading,
  { map, cutoff, colors, isDoubleSided }: Surface,
): Material {
  const material = new ShaderMaterial({
    vertexShader: map === undefined || map.channel === 0 ? rampVertex : `attribute vec2 uv${map.channel};${rampVertex}`,
    fragmentShader: rampFragment,
    uniforms: UniformsUtils.merge([
      UniformsLib.fog,
      {
        tones: { value: tones.map((tone) => new Color(tone)) },
        // The first tone needs no light.
        cuts: { value: [0, ...cuts] },
        light: { value: new Vector3(...light) },
        cutoff: { value: cutoff },
      },
    ]),
    defines: {
      TONES: tones.length,
      ...(glows && { GLOWS: "" }),
      ...(colors === "openness" && { OPENNESS: "" }),
      ...(colors === "tint" && { TINTED: "" }),
      ...(map && { PLACE: map.channel === 0 ? "uv" : `uv${map.channel}` }),
    },
    side: isDoubleSided ? DoubleSide : FrontSide,
    fog: true,
  });
  // Merging copies what it is given, and the texture is shared.
  if (map !== undefined) material.uniforms["map"] = { value: map };
  material.toneMapped = false;
  return material;
}

/** The ink around a mesh `withOutward`: its back, grown. @param width - in units of the scene. */
export function inkMaterial({ ink }: Shading, width: number, kind: "line" | "outline"): Material {
  const material = new ShaderMaterial({
    vertexShader: inkVertex,
    fragmentShader: inkFragment,
    uniforms: UniformsUtils.merge([
      UniformsLib.fog,
      {
        ink: { value: new Color(ink).lerp(dark, 0.35) },
        width: { value: width },
        behind: { value: kind === "outline" ? farBehind * width : 0 },
      },
    ]),
    defines: { OUTWARD: "" },
    side: BackSide,
    fog: true,
  });
  material.toneMapped = false;
  return material;
}

const dark = new Color(0x241410);
