import {
  BackSide,
  type BufferGeometry,
  Color,
  DoubleSide,
  FrontSide,
  type Material,
  ShaderMaterial,
  UniformsLib,
  UniformsUtils,
  Vector3,
} from "three";
import { folds, light, type Shading } from "../../core/model/shading.ts";

const vertexHead = `
#include <common>
#include <skinning_pars_vertex>
#include <fog_pars_vertex>
#ifdef HAS_OPENNESS
attribute vec4 color;
#endif
varying vec3 vDirection;
varying float vOpen;
`;

const vertexBody = `
  #include <beginnormal_vertex>
  #include <skinbase_vertex>
  #include <skinnormal_vertex>
  #include <begin_vertex>
  #include <skinning_vertex>
  #include <project_vertex>
  vDirection = normalize(normalMatrix * objectNormal);
  #ifdef HAS_OPENNESS
  vOpen = color.r;
  #else
  vOpen = 1.0;
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
void main() {
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

/** A material that steps through the tones of a ramp. @param geometry - one of those that will have it. */
export function rampMaterial(
  { tones, cuts, glows }: Shading,
  geometry: BufferGeometry,
  isDoubleSided: boolean,
): Material {
  const material = new ShaderMaterial({
    vertexShader: rampVertex,
    fragmentShader: rampFragment,
    uniforms: UniformsUtils.merge([
      UniformsLib.fog,
      {
        tones: { value: tones.map((tone) => new Color(tone)) },
        // The first tone needs no light.
        cuts: { value: [0, ...cuts] },
        light: { value: new Vector3(...light) },
      },
    ]),
    defines: {
      TONES: tones.length,
      ...(glows && { GLOWS: "" }),
      ...(geometry.hasAttribute("color") && { HAS_OPENNESS: "" }),
    },
    side: isDoubleSided ? DoubleSide : FrontSide,
    fog: true,
  });
  material.toneMapped = false;
  return material;
}

/** The ink around a mesh: its back, grown. @param width - in units of the scene. */
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
    side: BackSide,
    fog: true,
  });
  material.toneMapped = false;
  return material;
}

const dark = new Color(0x241410);
