"""Registrable domains that HTML files link to, found with Python's standard library and Debian's copy of the suffix list.

Reads file names from standard input, prints the domains, one a line.
"""
import sys
from html.parser import HTMLParser
from urllib.parse import urlsplit

LIST = "/usr/share/publicsuffix/public_suffix_list.dat"


def read_rules():
    rules = set()
    with open(LIST, encoding="utf-8") as file:
        for line in file:
            if "===END ICANN DOMAINS===" in line:
                break
            rule = line.split("//")[0].strip()
            if rule:
                rules.add(rule)
    return rules


RULES = read_rules()


def registrable(labels):
    for size in range(len(labels), 0, -1):
        tail = labels[-size:]
        name = ".".join(tail)
        if "!" + name in RULES:
            return name
        if name in RULES or ".".join(["*"] + tail[1:]) in RULES:
            return ".".join(labels[-size - 1:]) if len(labels) > size else None
    return None


class Links(HTMLParser):
    def __init__(self):
        super().__init__(convert_charrefs=True)
        self.found = []

    def handle_starttag(self, tag, attributes):
        values = dict(attributes)
        if tag in ("a", "area") and values.get("href"):
            self.found.append(values["href"])
        elif tag in ("iframe", "frame") and values.get("src"):
            self.found.append(values["src"])


def domain_of(address):
    try:
        parts = urlsplit(address.strip())
        host = (parts.hostname or "").rstrip(".")
    except ValueError:
        return None
    if parts.scheme not in ("http", "https") or "." not in host or host.replace(".", "").isdigit():
        return None
    labels = host.encode("idna").decode().lower().split(".")
    return registrable(labels)


domains = set()
for name in sys.stdin.read().splitlines():
    parser = Links()
    with open(name, encoding="utf-8", errors="replace") as file:
        parser.feed(file.read())
    for address in parser.found:
        if address.startswith("//"):
            address = "http:" + address
        domain = domain_of(address)
        if domain:
            domains.add(domain)
print("\n".join(sorted(domains)))
