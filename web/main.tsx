document.body.textContent = 'x';
