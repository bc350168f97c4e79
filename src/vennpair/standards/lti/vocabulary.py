"""Names fixed by the standards: claims, message types, scopes, roles, media types."""

from __future__ import annotations

CLAIM = "https://purl.imsglobal.org/spec/lti/claim/"
MESSAGE_TYPE = CLAIM + "message_type"
VERSION = CLAIM + "version"
DEPLOYMENT_ID = CLAIM + "deployment_id"
TARGET_LINK_URI = CLAIM + "target_link_uri"
RESOURCE_LINK = CLAIM + "resource_link"
CONTEXT = CLAIM + "context"
ROLES = CLAIM + "roles"
CUSTOM = CLAIM + "custom"
LAUNCH_PRESENTATION = CLAIM + "launch_presentation"
TOOL_PLATFORM = CLAIM + "tool_platform"
LIS = CLAIM + "lis"

AGS_CLAIM = "https://purl.imsglobal.org/spec/lti-ags/claim/endpoint"
NRPS_CLAIM = "https://purl.imsglobal.org/spec/lti-nrps/claim/namesroleservice"
OUTLINE_CLAIM = "urn:vennpair:claim:outline"

DL_SETTINGS = "https://purl.imsglobal.org/spec/lti-dl/claim/deep_linking_settings"
DL_ITEMS = "https://purl.imsglobal.org/spec/lti-dl/claim/content_items"
DL_DATA = "https://purl.imsglobal.org/spec/lti-dl/claim/data"
DL_MESSAGE = "https://purl.imsglobal.org/spec/lti-dl/claim/msg"
DL_ERROR = "https://purl.imsglobal.org/spec/lti-dl/claim/errormsg"

DEEP_LINKING_REQUEST = "LtiDeepLinkingRequest"
DEEP_LINKING_RESPONSE = "LtiDeepLinkingResponse"
SUBMISSION_REVIEW_REQUEST = "LtiSubmissionReviewRequest"
FOR_USER = CLAIM + "for_user"
RESOURCE_LINK_REQUEST = "LtiResourceLinkRequest"
LTI_VERSION = "1.3.0"

SCOPE_LINE_ITEM = "https://purl.imsglobal.org/spec/lti-ags/scope/lineitem"
SCOPE_LINE_ITEM_READ = "https://purl.imsglobal.org/spec/lti-ags/scope/lineitem.readonly"
SCOPE_RESULT_READ = "https://purl.imsglobal.org/spec/lti-ags/scope/result.readonly"
SCOPE_SCORE = "https://purl.imsglobal.org/spec/lti-ags/scope/score"
SCOPE_MEMBERSHIP = "https://purl.imsglobal.org/spec/lti-nrps/scope/contextmembership.readonly"
SCOPE_OUTLINE = "urn:vennpair:scope:outline"
SCOPE_OUTLINE_READ = "urn:vennpair:scope:outline.readonly"

MEDIA_LINE_ITEM = "application/vnd.ims.lis.v2.lineitem+json"
MEDIA_LINE_ITEMS = "application/vnd.ims.lis.v2.lineitemcontainer+json"
MEDIA_SCORE = "application/vnd.ims.lis.v1.score+json"
MEDIA_RESULTS = "application/vnd.ims.lis.v2.resultcontainer+json"
MEDIA_MEMBERSHIP = "application/vnd.ims.lti-nrps.v2.membershipcontainer+json"

ROLE_MEMBERSHIP = "http://purl.imsglobal.org/vocab/lis/v2/membership#"
INSTRUCTOR = ROLE_MEMBERSHIP + "Instructor"
LEARNER = ROLE_MEMBERSHIP + "Learner"
ASSISTANT = "http://purl.imsglobal.org/vocab/lis/v2/membership/Instructor#TeachingAssistant"
ADMINISTRATOR = "http://purl.imsglobal.org/vocab/lis/v2/institution/person#Administrator"

# LTI Core 1.3, A.2.1: nobody real, to be left out of rosters
TEST_USER = "http://purl.imsglobal.org/vocab/lti/system/person#TestUser"

# LTI Core 1.3 A.2.3 still allows the short names in the context scope.
_SHORT = {
    name: ROLE_MEMBERSHIP + name
    for name in (
        *("Administrator", "ContentDeveloper", "Instructor", "Learner"),
        *("Mentor", "Manager", "Member", "Officer"),
    )
}


def expand_role(role: str) -> str:
    """Return the full URI of a context role that may come as its short name."""
    return _SHORT.get(role, role)
