declare module 'pdfmake/build/pdfmake.min.js'
declare module 'exceljs/dist/exceljs.min.js'
