// Records that stand in a file, as a JSON library would hand them out.

#include "PACKAGE/records.hpp"

#include <gtest/gtest.h>

#include <cstdint>
#include <fstream>
#include <memory>
#include <ostream>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace {

using namespace PACKAGE;

std::vector<std::string> lines(const std::string &name) {
    std::ifstream file("DATA_FOLDER/" + name);
    std::vector<std::string> found;
    for (std::string line; std::getline(file, line);) {
        found.push_back(line);
    }
    return found;
}

std::string text(const std::string &digits) {
    std::string bytes;
    for (std::size_t at = 0; at < digits.size(); at += 2) {
        bytes += static_cast<char>(std::stoi(digits.substr(at, 2), nullptr, 16));
    }
    return bytes;
}

class Steps {
public:
    explicit Steps(const std::string &name)
        : steps_(lines(name)) {}

    RecordValue tree() { return tree(steps_.at(at_++)); }

private:
    RecordValue tree(const std::string &step) {
        const std::string kind = step.substr(0, step.find(' '));
        const std::string told = kind == step ? "" : step.substr(kind.size() + 1);
        if (kind == "integer") {
            return static_cast<std::int64_t>(std::stoll(told));
        }
        if (kind == "real") {
            return std::stod(told);
        }
        if (kind == "text") {
            return text(told);
        }
        if (kind == "list") {
            RecordValue::List list;
            while (steps_.at(at_) != "end") {
                list.push_back(tree());
            }
            ++at_;
            return list;
        }
        if (kind == "object") {
            RecordValue::Object object;
            while (steps_.at(at_) != "end") {
                std::string name = text(steps_.at(at_++).substr(5));
                object.emplace_back(std::move(name), tree());
            }
            ++at_;
            return object;
        }
        return kind == "null" ? RecordValue() : RecordValue(kind == "true");
    }

    std::vector<std::string> steps_;
    std::size_t at_ = 0;
};

std::vector<std::string> texts(const std::vector<std::unique_ptr<Mark>> &marks) {
    std::vector<std::string> all;
    for (const auto &mark : marks) {
        all.push_back(records::write_mark(*mark).to_text());
    }
    return all;
}

class Raft final : public Mark {
public:
    Raft(std::int64_t station, Position position, MarkOptions options)
        : Mark(station, std::move(position), std::move(options)) {}

    std::string_view key() const override { return "raft"; }
    std::unique_ptr<Mark> clone() const override { return std::make_unique<Raft>(*this); }
    std::string chart_label() const override { return "raft"; }

private:
    bool equals(const Mark &) const override { return true; }
    void show(std::ostream &out) const override { out << "Raft"; }
};

} // namespace

TEST(OfAFile, AFileIsMadeIntoProducts) {
    const auto [marks, problems] = create_all(Steps("records.steps").tree(), records::read_mark);
    std::vector<std::string> told;
    for (const RecordProblem &problem : problems) {
        told.push_back(problem.to_string());
    }
    EXPECT_EQ(told, lines("problems.txt"));
    EXPECT_EQ(texts(marks), lines("written.txt"));
}

TEST(OfAFile, WhatIsWrittenIsReadByEveryOther) {
    const auto [marks, problems] = create_all(Steps("again.steps").tree(), records::read_mark);
    EXPECT_TRUE(problems.empty());
    EXPECT_EQ(texts(marks), lines("written.txt"));
}

TEST(OfAFile, AKindOfOnesOwnIsWrittenWithWhatAllKindsHave) {
    const Raft raft(3, Position(54.5, 8.25), {.remarks = "two, tied"});
    EXPECT_EQ(
        records::write_mark(raft).to_text(),
        R"text({"type":"raft","station":3,"position":{"lat":54.5,"lon (°)":8.25},"toString":"two, tied"})text"
    );
}

TEST(OfAFile, DepthIsBounded) {
    try {
        records::read_plan(Steps("deep.steps").tree());
        FAIL() << "it was read";
    } catch (const RecordError &error) {
        for (const RecordProblem &problem : error.problems()) {
            EXPECT_EQ(problem.limit, "depth");
        }
    }
}
