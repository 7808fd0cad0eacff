/** The package's bundled file runs everywhere; its index has imports that plain Node cannot follow. */
declare module 'quickhull3d/dist/quickhull3d.js' {
  export { default } from 'quickhull3d'
}
