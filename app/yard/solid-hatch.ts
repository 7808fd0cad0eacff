import { DoubleSide, ShaderMaterial } from 'three'
import { viewPlaceShader } from './facing-material'

/** A collision shape: translucent spruce with a hatch of its own, crossed where one sees its far side. */
export function makeSolidHatch(): ShaderMaterial {
  return new ShaderMaterial({
    side: DoubleSide,
    transparent: true,
    depthWrite: false,
    vertexShader: viewPlaceShader,
    fragmentShader: /* glsl */ `
      varying vec3 viewPlace;
      void main() {
        vec3 normal = normalize(cross(dFdx(viewPlace), dFdy(viewPlace)));
        float light = 0.55 + 0.45 * abs(dot(normal, normalize(vec3(0.3, 0.6, 0.9))));
        float along = gl_FrontFacing ? gl_FragCoord.x + gl_FragCoord.y : gl_FragCoord.x - gl_FragCoord.y;
        float line = mod(along, 12.0) < 2.0 ? 1.0 : 0.0;
        vec3 colour = mix(vec3(0.18, 0.47, 0.40), vec3(0.05, 0.22, 0.18), line) * light;
        gl_FragColor = vec4(colour, (gl_FrontFacing ? 0.42 : 0.12) + line * (gl_FrontFacing ? 0.35 : 0.2));
        #include <colorspace_fragment>
      }`,
  })
}
