export * from './frames'
export * from './chapterBoxes'
export * from './sequence'
export * from './fresh'
