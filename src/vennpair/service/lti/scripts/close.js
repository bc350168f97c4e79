(window.opener || window.parent).postMessage({ subject: 'org.imsglobal.lti.close' }, '*')
