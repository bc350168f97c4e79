// Milliseconds of each frame while the matrix is scrolled, the shortest first.
() =>
  new Promise((done) => {
    const frame = document.querySelector('[role=application]')
    const times = []
    let last = performance.now()
    const step = (now) => {
      times.push(now - last)
      last = now
      frame.scrollTop += 90
      if (times.length < 60) requestAnimationFrame(step)
      else done(times.slice(1).sort((a, b) => a - b))
    }
    requestAnimationFrame(step)
  })
