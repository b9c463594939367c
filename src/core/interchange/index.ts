export { writeSketchDxf } from './sketch-dxf';
export { writeSketchSvg } from './sketch-svg';
