/** Whether a file is read as a drawing; what reads it is loaded when there is one. */
export const isDrawing = (file: File): boolean => /\.(dxf|svg)$/i.test(file.name);
