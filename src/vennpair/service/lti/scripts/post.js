document.getElementById('go').submit()
