"""The launch endpoints, toward the platform as tool and toward the publisher as platform."""
