import { DoubleSide, ShaderMaterial } from 'three'

/** Hands each place on in the camera's space: materials that hatch work out their faces' normals from it. */
export const viewPlaceShader = /* glsl */ `
      varying vec3 viewPlace;
      void main() {
        vec4 place = modelViewMatrix * vec4(position, 1.0);
        viewPlace = place.xyz;
        gl_Position = projectionMatrix * place;
      }`

/** Which way faces look: outward plain paper, inward hatched in madder, whatever the light. */
export function makeFacingMaterial(): ShaderMaterial {
  return new ShaderMaterial({
    side: DoubleSide,
    vertexShader: viewPlaceShader,
    fragmentShader: /* glsl */ `
      varying vec3 viewPlace;
      void main() {
        vec3 normal = normalize(cross(dFdx(viewPlace), dFdy(viewPlace)));
        float light = 0.5 + 0.5 * clamp(dot(normal, normalize(vec3(0.3, 0.6, 0.9))), 0.0, 1.0);
        vec3 plain = vec3(0.86, 0.83, 0.75) * light;
        float stripe = mod(gl_FragCoord.x + gl_FragCoord.y, 9.0);
        vec3 hatched = stripe < 4.0 ? vec3(0.40, 0.04, 0.05) : vec3(0.90, 0.74, 0.70);
        gl_FragColor = vec4(gl_FrontFacing ? plain : hatched, 1.0);
        #include <colorspace_fragment>
      }`,
  })
}
