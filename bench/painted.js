// Milliseconds until the matrix shows anything.
() =>
  new Promise((done) => {
    const began = performance.now()
    const look = () => {
      const sheet = document.querySelector('canvas')
      const painted = sheet && sheet.width && sheet.getContext('2d').getImageData(0, 0, sheet.width, sheet.height).data.some((value) => value)
      if (painted) done(performance.now() - began)
      else requestAnimationFrame(look)
    }
    look()
  })
