export * from './edition'
export * from './compile'
export * from './stepPicture'
