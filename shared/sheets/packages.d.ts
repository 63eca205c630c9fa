declare module 'pdfmake/build/pdfmake.min.js?url' {
  const address: string
  export default address
}
declare module 'exceljs/dist/exceljs.min.js?url' {
  const address: string
  export default address
}
