"""LTI 1.3 Advantage: messages, keys, tokens, Assignment and Grade Services, Names and Roles.

Written from LTI Core 1.3, the 1EdTech Security Framework 1.0, AGS 2.0 and NRPS 2.0; both roles
(tool and platform) use the same codecs.
"""
